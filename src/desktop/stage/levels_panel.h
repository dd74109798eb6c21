// The levels: each a spirit-level vial; one opens to its formula, its source and its levers.
#pragma once
#include <QScrollArea>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/workers/foresight.h"

class QVBoxLayout;
class QLabel;

namespace cinnabar {

class TriedLine;

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
  [[nodiscard]] QWidget* groupBox(int group, const std::vector<Vial*>& vials, int line, bool tight);
  [[nodiscard]] bool stands_full(const Level& level) const;
  void take(const std::vector<Level>& levels, bool close);
  void explain();
  [[nodiscard]] std::vector<Level> known() const;
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
  TriedLine* tried_ = nullptr;  ///< how many changes were tried, while levers are looked for
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
