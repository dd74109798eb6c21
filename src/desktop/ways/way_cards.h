// Ways that were found, side by side: each with its picture, what it does, Try and Apply.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

class QHBoxLayout;

namespace cinnabar {

class WordButton;

/// One way: its picture, its words, Try and Apply.
class WayCard : public QWidget {
  Q_OBJECT
 public:
  /// `changes`: else there is nothing to try or to apply.
  WayCard(const QString& of, int index, const Way& way, bool changes, QWidget* parent);
  void setPicture(const QImage& picture);
  void setTried(bool tried);
  [[nodiscard]] const QImage& picture() const { return picture_; }

 signals:
  void tried(int index, bool on);
  void taken(int index);
  void pointed(int index, bool at);

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void enterEvent(QEnterEvent*) override { emit pointed(index_, true); }
  void leaveEvent(QEvent*) override { emit pointed(index_, false); }

 private:
  int index_;
  Way way_;
  QImage picture_;
  WordButton *try_, *apply_;
};

/// A panel's ground with its title, and a few words beside that.
void drawWaysHead(QWidget& panel, const QString& title, const QString& words);

/// Looks for ways and shows them; only one is tried at a time, and what is taken is one edit. Ways of a document
/// that has changed since are taken back.
class WayCards : public QWidget {
  Q_OBJECT
 public:
  /// `name` tells its parts from those of others: "NAME-way-1", "NAME-try-1", "NAME-apply-1", "NAME-cancel".
  WayCards(const QString& name, Session* session, Foresight* foresight, QWidget* parent);
  void seek(WaySearch search);
  /// Calls off what is looked for, what is tried is dropped, and a word stands instead.
  void clear(const QString& note = {});
  [[nodiscard]] Forecaster forecaster() const { return foresight_->forecaster(); }
  [[nodiscard]] bool seeking() const { return seeking_; }

 signals:
  /// Documents that stand for the ways that are shown, and which of them is pointed at or tried (-1: none).
  void ghosts(const std::vector<std::shared_ptr<const Project>>& ways, int strong);

 protected:
  void paintEvent(QPaintEvent*) override;
  void hideEvent(QHideEvent*) override;

 private:
  void show(const Ways& ways);
  void attempt(int way, bool on);
  void take(int way);
  void lookAgain();
  void tellGhosts();
  void setSeeking(bool seeking);

  QString name_;
  Session* session_;
  Foresight* foresight_;
  Seeker* seeker_;  // one for all: who is out of sight looks for nothing
  QHBoxLayout* row_;
  QString note_;
  std::vector<WayCard*> cards_;
  WordButton* cancel_;
  Document askedOf_;
  std::shared_ptr<const Ways> ways_;
  int number_ = 0, tried_ = -1, pointed_ = -1;
  bool seeking_ = false;
};

}  // namespace cinnabar
