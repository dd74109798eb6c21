// The levels: each a spirit-level vial; one opens to its formula, its source and its levers.
#pragma once
#include <QAbstractButton>
#include <QScrollArea>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

class QVBoxLayout;
class QLabel;

namespace cinnabar {

/// One level as a vial: the two lines are the wanted band, the bubble sits where the prediction is; what is not
/// yet sure is drawn as a hollow span. A small one shows its name and its tube, and its number while it is pointed
/// at.
class Vial : public QAbstractButton {
  Q_OBJECT
 public:
  explicit Vial(QWidget* parent = nullptr);
  void show(const Level& level, Units units);
  [[nodiscard]] const Level& level() const { return level_; }
  QSize sizeHint() const override { return {240, 34}; }
  /// Full where `height` is 34.
  void setTall(int height);

 protected:
  void paintEvent(QPaintEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void enterEvent(QEnterEvent*) override { update(); }
  void leaveEvent(QEvent*) override { update(); }

 private:
  void paintSmall(QPainter& painter);
  Level level_;
};

/// Draws only the tube, lines and bubble.
void drawVial(QPainter& painter, const QRectF& box, const Level& level);
[[nodiscard]] QString valueText(const Level& level);

class LevelsPanel : public QWidget {
  Q_OBJECT
 public:
  LevelsPanel(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {272, 440}; }
  QSize minimumSizeHint() const override { return {230, 200}; }
  /// Opens a level's explanation; empty closes it.
  void open(const QString& id);
  [[nodiscard]] QString opened() const { return open_; }
  [[nodiscard]] bool close() const { return close_; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override { arrange(); }

 private:
  void arrange();
  [[nodiscard]] bool stands_full(const Level& level) const;
  void take(const std::vector<Level>& levels, bool close);
  void explain();
  void bringIntoView();
  void showLevers(const QString& level, const Forecaster::Levers& levers);
  /// One that was found while others are still looked for: it can be tried at once.
  void showProved(const QString& level, const Lever& lever, int tried, int all);
  [[nodiscard]] QWidget* leverRow(const Lever& lever, const QString& name);
  [[nodiscard]] const Level* find(const QString& id) const;

  Session* session_;
  Foresight* foresight_;
  std::vector<Level> levels_;
  Tally own_;  ///< of the shot's
  bool close_ = false;
  QString open_;
  std::vector<Vial*> vials_;
  QScrollArea* scroll_;
  QWidget* inner_;
  QVBoxLayout* column_;
  QWidget* explanation_ = nullptr;
  QLabel *sentence_ = nullptr, *formula_ = nullptr;  ///< in the explanation
  QVBoxLayout* leverColumn_ = nullptr;
  QLabel* looking_ = nullptr;  ///< while levers are looked for
  QWidget* stopLooking_ = nullptr;
  int proved_ = 0;
  QString leversFor_;
  Forecaster::Levers levers_;
  bool trying_ = false, showBand_ = false;
  std::vector<std::string> full_;      // those that are off, as last known closely
  std::vector<QWidget*> groups_;       // what holds the small ones
  std::vector<const void*> arranged_;  // what stands where
  int anew_ = 0;                       ///< how many are being measured
};

}  // namespace cinnabar
