// The lens: the predicted picture in its neutral mat, with overlays computed from it.
#pragma once
#include <QSet>
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/picture_maker.h"

namespace cinnabar {

class LensView : public QWidget {
  Q_OBJECT
 public:
  LensView(Session* session, PictureMaker* maker, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {500, 288}; }
  QSize minimumSizeHint() const override { return {300, 190}; }
  void setOverlay(const QString& name, bool on);
  [[nodiscard]] bool overlay(const QString& name) const { return overlays_.contains(name); }
  void setSolo(const std::string& light);
  [[nodiscard]] const std::string& solo() const { return solo_; }
  [[nodiscard]] bool settled() const { return picture_ && picture_->settled; }
  [[nodiscard]] int passes() const { return picture_ ? picture_->passes : 0; }
  /// The picture's place in the widget.
  [[nodiscard]] QRectF pictureBox() const;
  void refresh();

 signals:
  void pictureShown();

 protected:
  void paintEvent(QPaintEvent*) override;
  void resizeEvent(QResizeEvent*) override { refresh(); }

 private:
  void drawStopLines(QPainter& p, const QRectF& box);
  void drawCopySpace(QPainter& p, const QRectF& box);
  void drawClip(QPainter& p, const QRectF& box);

  Session* session_;
  PictureMaker* maker_;
  std::shared_ptr<const LensPicture> picture_;
  QSet<QString> overlays_;
  std::string solo_;
};

}  // namespace cinnabar
