// The floor: the set-up true to scale from above. Things are drawn as their outline, dragged, turned and nudged.
#pragma once
#include <QPolygonF>
#include <QWidget>
#include <array>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/render/mirrored.h"
#include "cinnabar/render/overlays.h"

namespace cinnabar {

class EffectsSeen;
class LensWedges;

class FloorView : public Painted {
  Q_OBJECT
 public:
  enum class Bench { place, light, move, effects };
  enum class View { plan, side, front };
  explicit FloorView(Session* session, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  QSize sizeHint() const override { return {456, 330}; }
  QSize minimumSizeHint() const override { return {260, 190}; }
  void setBench(Bench bench);
  /// Where lights and cards would stand in other states of the project, as dashed outlines with their numbers; the
  /// `strong` one stands out (-1: none does).
  void setGhosts(const std::vector<std::shared_ptr<const Project>>& ways, int strong);
  /// Where what is mirrored at places of a product stands: their families of angles, and the line of each place.
  void setAngles(std::vector<AngleFamily> families);
  [[nodiscard]] const std::vector<AngleFamily>& angles() const { return angles_; }
  /// What is met in the picture and has nothing to do there.
  void setStrays(std::vector<StrayThing> strays);
  [[nodiscard]] const std::vector<StrayThing>& strays() const { return strays_; }
  /// The set-up's pins, the one in hand strong; `pin` below 0: none is. Not shown at all until asked for.
  void showPins(bool shown);
  void setPin(int pin);
  [[nodiscard]] Bench bench() const { return bench_; }
  void setEffects(const EffectsSeen* effects);
  /// In the bench Place: what each lens sees, the widest first.
  [[nodiscard]] const LensWedges& lenses() const { return *wedges_; }
  /// From above, from camera right, or from the camera's side.
  void setView(View view);
  [[nodiscard]] View view() const { return view_; }
  /// Where a point of the floor is drawn.
  [[nodiscard]] QPointF onScreen(const Vec3& world) const;
  /// Middle of what is drawn for a thing, and of its aim handle.
  [[nodiscard]] QPointF handle(const Selection& selection) const;
  [[nodiscard]] QPointF aimHandle() const;
  /// Outer edge's middle of a leaf of the barn doors in hand (top, bottom, left, right), where this view shows it
  /// swing; nothing else.
  [[nodiscard]] std::optional<QPointF> doorHandle(std::size_t leaf) const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void resizeEvent(QResizeEvent*) override;

 private:
  void fit();
  [[nodiscard]] Vec3 axisRight() const;  ///< of the drawing, on the floor
  [[nodiscard]] Vec3 axisDown() const;
  [[nodiscard]] QPolygonF sheet(const Vec3& place, const Facing& frame, double width, double height,
                                double thickness) const;
  [[nodiscard]] QPolygonF productOutline(std::size_t index) const;
  /// Upright, what lights and cards stand on; what hangs, and how far what holds it reaches, in every view.
  void drawStands(QPainter& p);
  [[nodiscard]] std::vector<struct Head> heads() const;
  void drawMeasures(QPainter& p);
  void thingMenu();
  void roomMenu(class QMenu* menu);
  void askFile(const char* name, const QString& title, const QString& kinds,
               void (FloorView::*read)(const QString&));
  [[nodiscard]] Selection stillInHand(const Selection& thing, const std::string& pointer,
                                      const QString& name) const;
  void readGelCurve(const QString& path);
  void readPattern(const QString& path);
  void doThing(const std::optional<struct SetEdit>& edit);
  [[nodiscard]] Vec3 snapped(const Vec3& place, bool free) const;
  void drawLight(QPainter& p, std::size_t index);
  void drawGhosts(QPainter& p);
  void drawPins(QPainter& painter);
  void drawAngles(QPainter& p);
  void drawStrays(QPainter& p);
  void drawLenses(QPainter& p);
  /// The ways of what changes its place in the shot.
  void drawWays(QPainter& p);
  [[nodiscard]] std::vector<Vec3> wayPoints() const;
  void drawEffects(QPainter& p);
  void drawReleases(QPainter& p);
  [[nodiscard]] QPolygonF lightOutline(const Light& light) const;
  [[nodiscard]] QPolygonF cardOutline(const Card& card) const;
  void drawCamera(QPainter& p);
  void drawProducts(QPainter& p);
  void drawSet(QPainter& p);
  /// Walls, windows and where the sun falls in.
  void drawRoom(QPainter& p);
  void drawBodies(QPainter& p);
  [[nodiscard]] QPolygonF bodyOutline(const Gear& body) const;
  [[nodiscard]] QPolygonF roomOutline() const;
  /// Names are written last, each beside its thing where it covers neither things nor buttons nor other names.
  struct Name {
    QString text;
    QRectF thing;
    QFont font;
    QColor ink;
  };
  void drawRulers(QPainter& p);
  void drawNames(QPainter& p);
  static constexpr double ruler = 20.0;  ///< px, what the rulers take of two edges
  std::vector<Name> names_;
  QRectF lensList_;    ///< where the lenses are named
  QRectF unheldSaid_;  ///< what is said of missing stands
  [[nodiscard]] QPolygonF outline(const Selection& selection) const;
  [[nodiscard]] Backdrop backdropNow() const;
  [[nodiscard]] Selection thingAt(const QPointF& at) const;
  /// What can be taken on this bench: where effects begin on their own alone.
  [[nodiscard]] std::vector<Selection> takeable() const;
  [[nodiscard]] Vec3 onFloor(const QPointF& screen) const;
  void dragTo(const QPointF& at, bool keep);
  void swingDoor(const QPointF& at, bool keep);

  Session* session_;
  bool pinsShown_ = false;
  int pin_ = -1;
  std::vector<std::shared_ptr<const Project>> ghosts_;
  int strongGhost_ = -1;
  std::vector<AngleFamily> angles_;
  std::vector<StrayThing> strays_;
  const EffectsSeen* effects_ = nullptr;
  LensWedges* wedges_;
  Bench bench_ = Bench::light;
  View view_ = View::plan;
  std::array<class WordButton*, 3> views_{};
  WordButton* things_;
  double scale_ = 200;  // pixels per metre
  QPointF middle_;      // floor x, z at the widget's middle
  enum class Drag { none, body, aim, size, door } drag_ = Drag::none;
  Selection dragged_;
  QPointF pressed_;
  Vec3 placeAtPress_{}, aimAtPress_{};
  double sizeAtPress_ = 0;
  std::size_t leaf_ = 0;
  bool moved_ = false, freely_ = false;
  Newest reader_;  // last: it uses the others
};

/// Convex hull (Andrew 1979).
[[nodiscard]] QPolygonF hullOf(std::vector<QPointF> points);

}  // namespace cinnabar
