// The ladder: tracks over set time, the set rail and the screen rail, and a rung for every kept frame between
// them. Keys and rungs are dragged, typed and stepped, moments of effects are dragged; the cursor scrubs and
// plays.
#pragma once
#include <QTimer>
#include <QWidget>
#include <optional>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

namespace cinnabar {

class EffectsSeen;
class NumberField;
class WordButton;

/// A key of a track.
struct KeyPlace {
  std::size_t track = 0, key = 0;
  bool operator==(const KeyPlace&) const = default;
};

class LadderView : public Painted {
  Q_OBJECT
 public:
  LadderView(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  QSize sizeHint() const override { return {1240, 160}; }
  /// Where a set time stands on the upper rail and a screen time on the lower.
  /// Of a shot that plays backward the set rail runs from right to left: its rungs do not cross.
  [[nodiscard]] QPointF onSetRail(double setTime) const;
  [[nodiscard]] QPointF onScreenRail(double screenTime) const;
  /// Where an effect's moment stands that comes at a set second, and the mark of when it is wanted on screen.
  [[nodiscard]] QPointF onMoment(double setTime) const { return onSetRail(setTime) - QPointF(0, 5); }
  [[nodiscard]] QPointF onWanted(double screenTime) const { return onScreenRail(screenTime) + QPointF(0, 6); }
  /// Where a key stands.
  [[nodiscard]] QPointF onKey(const KeyPlace& place) const;
  [[nodiscard]] std::optional<KeyPlace> selectedKey() const { return selected_; }
  void selectKey(std::optional<KeyPlace> place);
  [[nodiscard]] bool playing() const { return player_.isActive(); }

  void setEffects(const EffectsSeen* effects);
  void addTrack(const std::string& target);
  [[nodiscard]] std::vector<std::string> targetsToAdd() const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void resizeEvent(QResizeEvent*) override { placeControls(); }

 private:
  void connectKey();
  enum class Grip { none, cursor, key, rung, moment };
  /// A moment of an effect: as it comes, or when it is wanted.
  struct Moment {
    std::size_t effect = 0, event = 0;
    bool wanted = false;
  };
  [[nodiscard]] double setTimeAt(double x) const;  ///< what stands there on the set rail
  [[nodiscard]] double scale() const;              ///< pixels per second, the same on both rails
  [[nodiscard]] double rowHeight() const;
  [[nodiscard]] QRectF rowBox(std::size_t track) const;
  [[nodiscard]] std::pair<double, double> span(const KeyedTrack& track) const;
  [[nodiscard]] std::optional<std::size_t> rowAt(const QPointF& at) const;
  [[nodiscard]] std::optional<KeyPlace> keyAt(const QPointF& at) const;
  [[nodiscard]] std::optional<double> rungAt(const QPointF& at) const;  ///< its screen time
  [[nodiscard]] std::optional<Moment> momentAt(const QPointF& at) const;
  void paintTracks(QPainter& p);
  void paintRungs(QPainter& p);
  void paintEffects(QPainter& p);
  void paintWorst(QPainter& p);
  void scrub(const QPointF& at);
  void changeKey(const KeyPlace& place, double time, double value, bool keep);
  void addKey(std::size_t track, double time);
  void removeKey(const KeyPlace& place);
  void moveRung(double screen, double set, bool keep);
  [[nodiscard]] std::string momentPath() const;
  void moveMoment(double x);
  void keepMoment();
  void setProfile(std::size_t track, const std::string& profile);
  void copyKeys();
  void pasteKeys();
  void trackMenu();
  void togglePlay();
  void tick();
  void placeControls();
  void refreshControls();
  bool keyOnKeyboard(QKeyEvent* event);

  Session* session_;
  const EffectsSeen* effects_ = nullptr;
  std::vector<Level> levels_;
  Grip grip_ = Grip::none;
  bool onLower_ = false;
  double grippedRung_ = 0;
  Moment gripped_;
  double moment_ = 0;       ///< what it was dragged to
  double letGoBefore_ = 0;  ///< the gripped moment comes so long after it is let go, in set seconds
  std::optional<KeyPlace> selected_;
  QTimer player_;
  qint64 lastTick_ = 0;
  WordButton *play_, *onScreen_, *loop_, *add_, *profile_;
  NumberField *time_, *value_;
};

/// What a track is called, and its value, for people.
[[nodiscard]] QString trackName(const Session& session, const std::string& target);
[[nodiscard]] QString trackValue(const Session& session, const std::string& target, double value);
/// What stands at a moment of it: a value, or how far a place has come along its way.
[[nodiscard]] QString trackNow(const Session& session, const KeyedTrack& track, double set_time);

}  // namespace cinnabar
