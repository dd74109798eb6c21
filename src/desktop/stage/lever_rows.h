// The rows under an opened level: how many changes were tried, and what a lever moves.
#pragma once
#include <QLabel>

#include "cinnabar/forecast/level.h"

namespace cinnabar {

/// A label that wraps, in the theme's type.
[[nodiscard]] QLabel* wrapped(const QString& text, double px, bool mono, const QColor& color, QWidget* parent);

/// A level that a lever moves: where its bubble was, hollow, and where it goes.
class MovedRow : public QWidget {
 public:
  MovedRow(const MovedLevel& moved, QWidget* parent);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  MovedLevel moved_;
  QString name_, word_;
};

/// "What brings it home", how many changes were tried, and how far that is.
class TriedLine : public QWidget {
 public:
  explicit TriedLine(QWidget* parent);
  void tell(int tried, int all);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  int tried_ = 0, all_ = 0;
  QString word_;
};

}  // namespace cinnabar
