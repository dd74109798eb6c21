// Lights, from the dark: each light's switch, solo, dimmer in stops, white and share at the product.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

namespace cinnabar {

class LightsPanel : public Painted {
  Q_OBJECT
 public:
  LightsPanel(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  QSize sizeHint() const override { return {500, 132}; }
  [[nodiscard]] QRectF rowBox(std::size_t light) const;
  [[nodiscard]] QRectF sliderBox(std::size_t light) const;
  [[nodiscard]] QRectF switchBox(std::size_t light) const;
  [[nodiscard]] QRectF nameBox(std::size_t light) const;

  /// Each layer's share of the light on the backdrop that is seen.
  void setOnBackdrop(std::vector<double> shares);

 signals:
  void soloed(const std::string& light);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void resizeEvent(QResizeEvent*) override;

 private:
  [[nodiscard]] Vec3 colourOf(const Light& light) const;
  /// How many stops a light gives less at the product than the one that gives most there.
  [[nodiscard]] std::optional<double> strongestOver(std::size_t light) const;
  [[nodiscard]] bool ratioFits() const { return width() >= 470; }
  /// Whether there is room for the colours' names.
  [[nodiscard]] bool wordsFit() const { return width() >= 440; }
  void refreshTurns();
  void darken();
  void turnOnNext();
  [[nodiscard]] std::size_t count() const;
  [[nodiscard]] bool tracked(std::size_t light) const;
  [[nodiscard]] double stopsAt(double x) const;
  [[nodiscard]] Session::Values dimmed(std::size_t light, double stops) const;
  void toggle(std::size_t light);
  void solo(std::size_t light);
  void nudge(double stops);
  [[nodiscard]] std::size_t current() const;

  std::vector<double> onBackdrop_;  ///< each one's share of the light on the backdrop; empty: none is seen
  Session* session_;
  Foresight* foresight_;
  std::string solo_;
  std::optional<std::size_t> dragged_;
  double stops_ = 0;
  int scroll_ = 0;
  class WordButton *dark_, *next_;
};

}  // namespace cinnabar
