// Watch it: the spot as film, from the pictures that are there and better as they come.
#pragma once
#include <QDialog>
#include <QElapsedTimer>
#include <QTimer>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/film_maker.h"

class QComboBox;
class QPushButton;

namespace cinnabar {

class FilmLine;
class FilmScreen;
class PlainLabel;
class WordButton;

class WatchSheet : public QDialog {
  Q_OBJECT
 public:
  WatchSheet(Session* session, FilmMaker* maker, QWidget* parent);
  ~WatchSheet() override;

  /// Seconds of the spot on screen.
  [[nodiscard]] double position() const { return position_; }
  void setPosition(double seconds);
  [[nodiscard]] bool playing() const { return clock_.isActive(); }
  void play(bool on);
  /// What is shown now.
  [[nodiscard]] FilmMaker::Place place() const;
  [[nodiscard]] const FilmMaker& maker() const { return *maker_; }
  [[nodiscard]] Session* session() const { return session_; }
  /// Where the words of the shape in hand stand, as shares of the picture, while they stand there.
  [[nodiscard]] std::optional<QRectF> words() const;

 protected:
  void keyPressEvent(QKeyEvent*) override;

 private:
  void connectParts(QPushButton* go, QPushButton* back);
  void ask();
  void tell();
  void advance();
  void step(long pictures);
  void toShot(int by);
  enum class Span { spot, shot, cut };
  /// What is played: the whole spot, the shot in hand, or a second on either side of the cut after it.
  [[nodiscard]] Span chosen() const;
  [[nodiscard]] std::pair<double, double> span() const;
  [[nodiscard]] const Deliverable* shape() const;

  Session* session_;
  FilmMaker* maker_;
  double position_ = 0;
  QTimer clock_;
  QElapsedTimer since_;
  FilmScreen* screen_;
  FilmLine* line_;
  QComboBox *spans_, *shapes_;
  std::size_t cut_ = 0;  ///< the shot before it
  WordButton *play_, *loop_, *words_;
  PlainLabel* says_;
};

/// The picture on its grey mat.
class FilmScreen : public QWidget {
  Q_OBJECT
 public:
  explicit FilmScreen(WatchSheet* sheet);
  /// What was painted last came from a picture of this very place.
  [[nodiscard]] bool shown() const { return shown_; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  WatchSheet* sheet_;
  bool shown_ = false;
};

/// The spot from left to right: its shots, the beats, which pictures are there, and where it is.
class FilmLine : public Painted {
  Q_OBJECT
 public:
  explicit FilmLine(WatchSheet* sheet);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  void moved() {
    update();
    tellChosenPart();
  }
  /// Where a second of the spot stands.
  [[nodiscard]] double across(double seconds) const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  [[nodiscard]] QRectF box(std::size_t shot) const;
  void pointed(double x);
  WatchSheet* sheet_;
};

}  // namespace cinnabar
