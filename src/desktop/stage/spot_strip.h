// The spot: the film as a strip, each shot as wide as its screen time, with beats below.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

namespace cinnabar {

class SpotStrip : public Painted {
  Q_OBJECT
 public:
  SpotStrip(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  QSize sizeHint() const override { return {1280, 74}; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  bool event(QEvent*) override;

 private:
  [[nodiscard]] bool over() const;
  void paintLength(QPainter& p) const;
  void paintShot(QPainter& p, std::size_t i) const;
  void paintBeats(QPainter& p) const;
  [[nodiscard]] QRectF box(std::size_t shot) const;
  [[nodiscard]] double scale() const;  ///< pixels per second
  [[nodiscard]] std::optional<std::size_t> shotAt(const QPointF& at) const;
  [[nodiscard]] std::optional<std::size_t> edgeAt(const QPointF& at) const;
  [[nodiscard]] double snapped(std::size_t shot, double screenTime) const;
  void move(std::size_t from, std::size_t to);

  Session* session_;
  Foresight* foresight_;
  enum class Drag { none, edge, order } drag_ = Drag::none;
  std::size_t dragged_ = 0;
  double grabOffset_ = 0, lengthNow_ = 0, scaleAtPress_ = 0;
  QPointF pressed_;
  double orderX_ = 0;
};

}  // namespace cinnabar
