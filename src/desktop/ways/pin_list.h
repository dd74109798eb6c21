// The pins of a set-up in rows: what is forecast at each, who gives it, and what a hand meter read.
#pragma once
#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/forecast/measures/pins.h"

namespace cinnabar {

class PinList : public Painted {
  Q_OBJECT
 public:
  PinList(Session* session, QWidget* parent);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  /// What was read for the pins as they stand; empty while it is worked out.
  void show(std::vector<PinReading> readings);
  [[nodiscard]] const std::vector<PinReading>& readings() const { return readings_; }
  [[nodiscard]] std::size_t chosen() const { return chosen_; }
  void choose(std::size_t pin);

 signals:
  void chosenChanged();
  void removeWanted();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void wheelEvent(QWheelEvent*) override;

 private:
  [[nodiscard]] const std::vector<Pin>& pins() const;
  [[nodiscard]] const PinReading* readingOf(const Pin& pin) const;
  [[nodiscard]] QString words(const Pin& pin) const;
  [[nodiscard]] std::size_t rowsShown() const;
  [[nodiscard]] QRectF rowBox(std::size_t pin) const;
  void paintRow(QPainter& painter, std::size_t pin) const;

  Session* session_;
  std::vector<PinReading> readings_;
  std::size_t chosen_ = 0, first_ = 0;
};

}  // namespace cinnabar
