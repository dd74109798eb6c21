// The Board: the film on paper. Every shot a card with its predicted picture, in the order of the story or by set-up.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

class QScrollArea;

namespace cinnabar {

class LevelsStrip;
class ShotPaper;

/// All cards; only those in sight are painted.
class BoardCards : public QWidget {
  Q_OBJECT
 public:
  BoardCards(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  void setBySetup(bool on);
  [[nodiscard]] bool bySetup() const { return bySetup_; }
  /// Where a shot's card is, in this widget.
  [[nodiscard]] QRect card(std::size_t shot) const;
  [[nodiscard]] QSize sizeHint() const override;

 signals:
  void wanted(const QRect& place);  ///< should be in sight
  void opened();                    ///< asked for on the Stage

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void arrange();
  void paintCard(QPainter& p, std::size_t shot);
  [[nodiscard]] std::optional<std::size_t> cardAt(const QPoint& at) const;
  void choose(std::size_t shot);
  void move(std::size_t from, std::size_t to);
  Session* session_;
  Foresight* foresight_;
  bool bySetup_ = false;
  std::vector<QRect> cards_;                       // by shot
  std::vector<std::size_t> order_;                 // as they stand
  std::vector<std::pair<int, QString>> headings_;  // y, text
  std::optional<std::size_t> pressed_, over_;
  QPoint pressedAt_, now_;
  bool dragging_ = false;
};

class BoardPage : public QWidget {
  Q_OBJECT
 public:
  BoardPage(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  void takeFocus();
  [[nodiscard]] BoardCards* cards() const { return cards_; }
  /// Opens the sheet on which a list is pasted.
  void pasteList();

 signals:
  void stageWanted();
  void tableWanted();

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  void act(const Expected<Document>& next, const QString& title, std::optional<std::size_t> then = {});
  void split();
  Session* session_;
  BoardCards* cards_;
  ShotPaper* paper_;
  QScrollArea* scroll_;
};

}  // namespace cinnabar
