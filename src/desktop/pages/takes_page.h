// Takes: one key keeps, one drops; numbered reasons; what changed since the take before; how many more to expect.
#pragma once
#include <QSet>
#include <QWidget>
#include <optional>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/workers/foresight.h"
#include "cinnabar/takes/log.h"

class QLineEdit;

namespace cinnabar {

/// What was changed between two takes, in a line.
[[nodiscard]] QString changeWords(const TakeChange& change);

/// "Next": the shot and take about to be made, and the keys that log it.
class NextTake : public Painted {
  Q_OBJECT
 public:
  NextTake(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  void log(bool kept);
  void toggleReason(int number);
  [[nodiscard]] QRectF keepBox() const;
  [[nodiscard]] QRectF dropBox() const;
  [[nodiscard]] QRectF reasonBox(int number) const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void refreshReasons();
  Session* session_;
  Foresight* foresight_;
  TakeChange since_;
  std::vector<std::string> reasons_;
  QSet<int> chosen_;
};

/// "How many more", "Every take of the spot", and the present shot's table.
class TakeTables : public Painted {
  Q_OBJECT
 public:
  enum class Part { prediction, spot, shot };
  TakeTables(Part part, Session* session, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  /// The take in hand of the shot's table, by its place in the log; nothing when none is.
  [[nodiscard]] std::optional<std::size_t> taken() const { return taken_; }
  void take(std::optional<std::size_t> place);
  /// How the shot's table stands: its order, and whether only takes with one thing changed are shown.
  void sortBy(TakeOrder order);
  void onlyOne(bool on);
  [[nodiscard]] TakeOrder order() const { return order_; }
  /// Places in the log as the rows show them, from the top.
  [[nodiscard]] std::vector<std::size_t> rows() const;
  /// Where a column's heading is: 0 the take, 1 what changed, 2 kept, 3 why; 4 the switch "one thing at a time".
  [[nodiscard]] QRectF heading(int column) const;
  /// Opens the take in hand for typing: its reasons between commas, and after a semicolon its note.
  void edit();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  [[nodiscard]] std::string pointer() const;  ///< of the take in hand
  [[nodiscard]] double rowTop(std::size_t place) const;
  [[nodiscard]] double topOf(std::size_t row) const;
  void finishEdit();
  void setKept(bool kept);
  void remove();
  void paintPrediction(QPainter& p);
  void paintDone(QPainter& p, const ShotLog& log);
  void paintSpot(QPainter& p);
  void paintShot(QPainter& p);
  Part part_;
  Session* session_;
  QList<TakeChange> changes_;
  QString changesFor_;
  int scroll_ = 0;
  std::optional<std::size_t> taken_;
  TakeOrder order_ = TakeOrder::newest;
  bool onlyOne_ = false;
  QLineEdit* editor_ = nullptr;
  bool entering_ = false;
};

class TakesPage : public WindowPage {
  Q_OBJECT
 public:
  TakesPage(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  void takeFocus() override { next_->setFocus(); }

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override;

 private:
  void ask();
  Session* session_;
  NextTake* next_;
};

}  // namespace cinnabar
