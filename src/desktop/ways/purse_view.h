// The purse of stops: each thing that gives or takes light on one scale, its notches, pins, and what is left over.
#pragma once
#include <map>
#include <memory>
#include <set>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/forecast/stops/purse.h"

namespace cinnabar {

class PurseView : public Painted {
  Q_OBJECT
 public:
  PurseView(Session* session, const Forecaster& forecaster, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  [[nodiscard]] const std::set<std::string>& pins() const { return pins_; }
  /// Nothing until it is worked out.
  [[nodiscard]] const Purse* purse() const { return stale_ ? nullptr : purse_.get(); }
  /// Where a notch of a row is drawn, and a row's name, which takes and drops its pin.
  [[nodiscard]] QPointF onScreen(std::size_t row, std::size_t notch) const;
  [[nodiscard]] QRectF nameBox(std::size_t row) const;

 signals:
  void workedOut();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void showEvent(QShowEvent*) override;
  void hideEvent(QHideEvent*) override { worker_.stop(); }

 private:
  void ask();
  static QString keysHelp();
  void tellNone(const QString& why);
  void take(const Purse& purse);
  void move(std::size_t row, std::size_t notch, bool keep);
  void togglePin(std::size_t row);
  [[nodiscard]] std::size_t nearestNotch(std::size_t row, double x) const;
  [[nodiscard]] QRectF scaleBox() const;
  [[nodiscard]] double rowTop(std::size_t row) const;
  [[nodiscard]] double rowHeight() const;
  [[nodiscard]] double shifted(std::size_t row) const;  ///< of the shot as it is beside when the bench opened
  [[nodiscard]] QString textOf(std::size_t row, std::size_t notch) const;
  void drawRow(QPainter& p, std::size_t row);

  Session* session_;
  Forecaster forecaster_;
  std::shared_ptr<const Purse> purse_;
  QString why_;  // where there is none
  PurseHand hand_;
  std::set<std::string> pins_;
  std::map<std::string, double> opened_;  // how the rows stood when the bench opened
  std::string openedShot_;
  std::size_t current_ = 1;
  std::optional<std::size_t> dragged_;
  bool stale_ = true, own_ = false;
  int asked_ = 0;
  Newest worker_;  // last: it uses the others
};

}  // namespace cinnabar
