// What a change to a set-up does to the other shots on it: told while something is dragged and when it is kept,
// with the choice to keep it for all, for this shot alone, or not at all.
#pragma once
#include <QTimer>
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

class QLabel;

namespace cinnabar {

class WordButton;

class ElsewhereLine : public QWidget {
  Q_OBJECT
 public:
  ElsewhereLine(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  /// Whether there is anything to tell.
  [[nodiscard]] bool tells() const { return !shots_.empty(); }

 signals:
  void telling(bool some);

 protected:
  void resizeEvent(QResizeEvent*) override;

 private:
  void follow();
  void look(const Document& before, const Document& after, bool kept);
  void told(int number, const std::vector<Touched>& touched);
  void say(const QString& text, const QString& more);
  void clear();
  void keepHere();

  Session* session_;
  Foresight* foresight_;
  QLabel* text_;
  WordButton *all_, *here_, *back_;
  QTimer pause_;  ///< of a drag
  Document before_, after_;
  std::vector<std::size_t> shots_;  ///< that are touched besides the one in hand
  QString said_;
  int asked_ = 0;
  bool kept_ = false;
};

}  // namespace cinnabar
