// The shelf of ready moves: each a card with what it does and how its levels would stand here; one is made by
// Enter or a double click after the present shot, or dragged on to the thread.
#pragma once
#include <QHash>
#include <QWidget>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/forecast/level.h"

namespace cinnabar {

class MoveShelf : public Painted {
  Q_OBJECT
 public:
  explicit MoveShelf(QWidget* parent = nullptr);
  /// How many levels would be out and leaning, by move, before any lever is pulled.
  void setOutcomes(const QHash<QString, Tally>& outcomes);
  [[nodiscard]] const QHash<QString, Tally>& outcomes() const { return outcomes_; }
  [[nodiscard]] QRect card(int index) const;
  [[nodiscard]] int chosen() const { return chosen_; }
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  QSize sizeHint() const override { return {600, 86}; }

 signals:
  void wanted(const QString& move);
  void dragged(const QString& move, const QPoint& global);
  void dropped(const QString& move, const QPoint& global);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void resizeEvent(QResizeEvent*) override { choose(chosen_); }
  bool event(QEvent* event) override;

 private:
  void choose(int index);
  [[nodiscard]] int at(const QPoint& point) const;
  [[nodiscard]] int visible() const;
  QHash<QString, Tally> outcomes_;
  int first_ = 0, chosen_ = 0, pressed_ = -1;
  bool dragging_ = false;
  QPoint pressedAt_;
};

}  // namespace cinnabar
