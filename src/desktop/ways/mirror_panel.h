// What it mirrors: the room as the product sees it, unrolled. Lights and cards are put up where it looks.
#pragma once
#include <QImage>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/render/mirrored.h"

class QMenu;

namespace cinnabar {

class MirrorPanel : public Painted {
  Q_OBJECT
 public:
  explicit MirrorPanel(Session* session, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  /// The picture that tells what is mirrored; it is worked out again.
  void look(const std::shared_ptr<const LensPicture>& picture);
  [[nodiscard]] const UnrolledRoom* room() const { return drawn_ ? &drawn_->room : nullptr; }
  /// Where the unrolled room is drawn.
  [[nodiscard]] QRectF roomBox() const;

 signals:
  void workedOut();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void showEvent(QShowEvent*) override;
  void hideEvent(QHideEvent*) override { worker_.stop(); }

 private:
  struct DrawnRoom {
    UnrolledRoom room;
    QImage image;
    std::vector<std::pair<RoomPlace, QPointF>> things;  ///< lights, cards and gear, by the middle of what is seen
    std::vector<QPointF> dots;                          ///< where the picture's lines of sight are thrown
  };
  static DrawnRoom drawnRoom(const UnrolledRoom& room);
  [[nodiscard]] Vec3 pointedTo() const;
  void keep(const std::optional<SetEdit>& thing);
  void pointAt(const QPointF& where);
  void putMenu(const QPointF& at);
  void put(const std::optional<SetEdit>& thing);
  [[nodiscard]] QString wordsAt(const QPointF& where) const;
  [[nodiscard]] QString called(const RoomPlace& place) const;

  Session* session_;
  std::shared_ptr<const LensPicture> picture_, asked_;
  std::shared_ptr<const DrawnRoom> drawn_;
  std::optional<QPointF> pointed_;  // shares of the room
  Newest worker_;                   // last: it uses the others
};

}  // namespace cinnabar
