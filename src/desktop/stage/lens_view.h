// The lens: the predicted picture in its neutral mat, with overlays computed from it.
#pragma once
#include <QSet>
#include <QStringList>
#include <QWidget>
#include <optional>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/render/overlays.h"

namespace cinnabar {

class LensView : public Painted {
  Q_OBJECT
 public:
  LensView(Session* session, PictureMaker* maker, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {500, 288}; }
  QSize minimumSizeHint() const override { return {300, 190}; }
  void setOverlay(const QString& name, bool on);
  [[nodiscard]] bool overlay(const QString& name) const { return overlays_.contains(name); }
  void setSolo(const std::string& light);
  /// Which pin of the set-up is in hand; below 0 none.
  void setPin(int pin);
  [[nodiscard]] const std::string& solo() const { return solo_; }
  [[nodiscard]] bool settled() const {
    return picture_ && picture_->settled && (!overlay("Start to end") || !stages_.isNull() || !session_->shot());
  }
  [[nodiscard]] const std::shared_ptr<const LensPicture>& picture() const { return picture_; }
  [[nodiscard]] int passes() const { return picture_ ? picture_->passes : 0; }
  /// The picture's place in the widget.
  [[nodiscard]] QRectF pictureBox() const;
  void refresh();
  /// Reads a place of the frame (shares, y down) out of the picture; nothing takes the reading away.
  void readAt(std::optional<QPointF> place);
  [[nodiscard]] std::optional<QPointF> reading() const { return probed_; }
  /// What is read there, in words, line by line; empty without a picture.
  [[nodiscard]] QStringList readOut() const;
  /// What the place that is read shows; nothing without a reading or before a picture of it.
  [[nodiscard]] std::optional<PlaceMet> placeMet() const;
  /// Keeps the picture as it is now and lays it over the left of what comes after it, up to a line that is
  /// dragged.
  void setCompared(bool on);
  /// Both whole, side by side, as long as one is kept.
  void setBeside(bool on);
  [[nodiscard]] bool besides() const { return beside_ && compared(); }
  [[nodiscard]] bool compared() const { return !kept_.isNull(); }
  /// Where the line is drawn: a share of the frame's width.
  [[nodiscard]] double comparedAt() const { return comparedAt_; }
  /// What differs from the kept one, in words; empty until it is worked out, and without a kept one.
  [[nodiscard]] const QString& differs() const { return differs_; }
  /// One delivered pixel to one of the screen, about the reading's place or the middle.
  void setZoomed(bool on);
  [[nodiscard]] bool zoomed() const { return zoomed_; }

 signals:
  void pictureShown();
  void differenceTold();
  void wholeWindowAsked();
  void zoomChanged(bool zoomed);
  void placeRead();

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override { refresh(); }
  void showEvent(QShowEvent*) override { refresh(); }
  void hideEvent(QHideEvent*) override { maker_->stop(); }
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override { dragsLine_ = false; }
  void mouseDoubleClickEvent(QMouseEvent*) override { emit wholeWindowAsked(); }
  void keyPressEvent(QKeyEvent*) override;

 private:
  /// Where the whole frame lies in the widget: larger than it when zoomed.
  [[nodiscard]] QRectF frameBox() const;
  [[nodiscard]] int deliveredWidth() const;
  void readAtWidget(const QPointF& at);
  void askBands();
  void askShadows();
  void askDifference();
  /// At the place read of a frame, its words within `box`.
  void drawReading(QPainter& p, const QRectF& frame, const QRectF& box);
  void drawCross(QPainter& p, const QRectF& frame);
  /// What both pictures recorded there, where they are compared.
  [[nodiscard]] QString recordedThere() const;
  void drawCompared(QPainter& p, const QRectF& frame);
  void drawBeside(QPainter& p, const QRectF& box);
  /// Where the kept picture, or this one, lies beside the other.
  [[nodiscard]] QRectF besideBox(const QRectF& box, bool left) const;
  void drawStrays(QPainter& p, const QRectF& frame);
  void moveLine(double across);
  void drawFrames(QPainter& p, const QRectF& box);
  void drawCrop(QPainter& p, const QRectF& box);
  void drawFocusDiscs(QPainter& p, const QRectF& box);
  void drawStages(QPainter& painter, const QRectF& box);
  void askStages(const QRectF& box, const QRectF& shown);
  void drawSmearStrokes(QPainter& p, const QRectF& box);
  void drawStopLines(QPainter& p, const QRectF& box);
  void drawCopySpace(QPainter& p, const QRectF& box);
  void drawClip(QPainter& p, const QRectF& box);
  void drawSupports(QPainter& p, const QRectF& box);
  void drawPins(QPainter& painter, const QRectF& box);

  Session* session_;
  PictureMaker* maker_;
  std::shared_ptr<const LensPicture> picture_;
  QSet<QString> overlays_;
  std::string solo_;
  std::optional<QPointF> probed_;
  bool zoomed_ = false;
  int pin_ = -1;
  QImage kept_;
  QString keptOf_, differs_;
  QRectF differsIn_;  ///< shares of the frame
  double comparedAt_ = 0.5;
  bool dragsLine_ = false, keepsNext_ = false, beside_ = false;
  QImage stages_;        ///< outlines from start to end, until the shot is changed
  QRectF stagesIn_;      ///< the frame that they were asked for
  int stagesAsked_ = 0;  ///< so often; answers to another are not heard
  QImage bands_;         ///< the picture as its lamps' pulses meet the readout, while that is asked for
  QImage shadows_;       ///< shadows alone, while they are asked for
  std::pair<std::shared_ptr<const StagedWorld>, std::string> shadowsOf_;  ///< what they were asked for
  Newest bander_, differ_, outliner_, shader_;                            // last: they use the others
};

}  // namespace cinnabar
