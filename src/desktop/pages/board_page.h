// The Board: the film on paper. Every shot a card with its predicted picture, in the order of the story or by
// set-up.
#pragma once
#include <QHash>
#include <QPixmap>
#include <QWidget>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/workers/foresight.h"
#include "cinnabar/forecast/moves/ready_moves.h"

class QHBoxLayout;
class QLabel;
class QScrollArea;

namespace cinnabar {

class MoveShelf;
class ShotPaper;
class WordButton;

/// The shots on the bands of their set-ups, side by side in story order, with the thread of the story through
/// them: each step of it between bands is a change on the floor. Only what is in sight is painted.
class BoardCards : public Painted {
  Q_OBJECT
 public:
  BoardCards(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  /// Where a shot's card is, and a set-up's band, in this widget.
  [[nodiscard]] QRect card(std::size_t shot) const;
  [[nodiscard]] QRect band(std::size_t setup) const;
  /// Fits the bands to what is in sight of them.
  void fitTo(const QSize& sight);
  /// Place in the story, and set-up, under a point of this widget.
  [[nodiscard]] std::pair<std::size_t, std::size_t> spotAt(const QPoint& at) const;
  /// Shows where something dragged in from outside would be put; nothing takes it away.
  void hint(const std::optional<QPoint>& at);

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

 private:
  void arrange();
  void paintBand(QPainter& p, std::size_t setup);
  void paintThread(QPainter& p, const QRect& sight);
  void paintCard(QPainter& p, std::size_t shot);
  void drawCard(QPainter& p, std::size_t shot, const QRectF& card, double ratio) const;
  [[nodiscard]] std::optional<std::size_t> cardAt(const QPoint& at) const;
  [[nodiscard]] std::size_t bandAt(int y) const;
  [[nodiscard]] std::size_t bandOf(std::size_t shot) const;
  void choose(std::size_t shot);
  /// Puts a shot at a place of the story and on a set-up, as one edit.
  void put(std::size_t shot, std::size_t place, std::size_t setup);
  Session* session_;
  Foresight* foresight_;
  QSize sight_{900, 500};
  int slot_ = 100, bandHeight_ = 160;
  std::optional<std::size_t> pressed_;
  QPoint pressedAt_, now_;
  bool dragging_ = false, hinting_ = false;
  /// All that a card's drawing depends on; it holds the shot, so that another cannot come to stand at its address.
  struct CardLook {
    std::shared_ptr<const Shot> shot;
    qint64 picture = 0;
    int out = 0, leaning = 0;
    std::size_t number = 0;
    QSize size;
    double ratio = 1;
    bool chosen = false, focused = false, dark = false;
    bool operator==(const CardLook&) const = default;
  };
  QHash<QString, std::pair<CardLook, QPixmap>> drawn_;
};

class BoardPage : public WindowPage {
  Q_OBJECT
 public:
  BoardPage(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  void takeFocus() override;
  [[nodiscard]] BoardCards* cards() const { return cards_; }
  /// Opens the sheet on which a list is pasted.
  void pasteList();
  /// Makes a ready move at a place of the story, on a set-up (none: that of the shot before), on a worker.
  void makeMove(const QString& move, std::size_t place, const std::string& setup = {});

 protected:
  void paintEvent(QPaintEvent*) override;
  bool eventFilter(QObject* object, QEvent* event) override;
  void showEvent(QShowEvent*) override { askOutcomes(); }

 private:
  [[nodiscard]] QHBoxLayout* toolRow();
  void connectMoves();
  void askOutcomes();
  void moveMade(const Document& before, const Expected<MoveMade>& made);
  void notMaking();
  void act(const Expected<Document>& next, const QString& title, std::optional<std::size_t> then = {});
  void split();
  Session* session_;
  BoardCards* cards_;
  ShotPaper* paper_;
  QScrollArea* scroll_;
  MoveShelf* shelf_;
  QLabel* making_;
  WordButton* stopMaking_;
  Foresight* foresight_;
  int move_ = 0;     ///< the one being made; 0: none
  Newest outcomes_;  // last: it uses the others
};

}  // namespace cinnabar
