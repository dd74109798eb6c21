#include "cinnabar/desktop/stage/ladder_view.h"

#include <QPainterPath>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/levels/runs.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
constexpr double left = 190, right = 236, nameLeft = 92;  // names stand right of the words and the button

/// The name of a thing that a track moves.
QString movedThing(const Session& s, const TrackTarget& target) {
  const auto named = [](const std::string& name, const std::string& id) { return q(name_or(name, id)); };
  if (target.kind->moved == TrackedThing::product) {
    const Product* product = by_id(s.project().products, target.id);
    return product ? named(product->name, product->id) : q(target.id);
  }
  const auto among = [&](const auto& list) {
    for (const auto& thing : list)
      if (thing.id == target.id) return named(thing.name, thing.id);
    return q(target.id);
  };
  if (!s.setup()) return q(target.id);
  return target.kind->moved == TrackedThing::light ? among(s.setup()->lights) : among(s.setup()->cards);
}
/// The id of the light that a track moves.
std::string lightOf(const std::string& target) {
  const auto read = read_target(target);
  return read && read->kind->moved == TrackedThing::light ? read->id : std::string();
}
/// How its values are told: metres, millimetres, percent or degrees.
enum class Told { metres, millimetres, percent, degrees };
Told told(const std::string& target) {
  const auto what = tracked(target);
  if (what == Tracked::camera_focal) return Told::millimetres;
  if (what == Tracked::crop || what == Tracked::light_dimmer) return Told::percent;
  if (what == Tracked::camera_slide || what == Tracked::camera_focus || (what && kind_of(*what).places))
    return Told::metres;
  return Told::degrees;
}
/// What a track does to its thing; the thing's name stands before it where there may be several.
QString trackDoes(Tracked what) {
  switch (what) {
    case Tracked::turntable:
      return QObject::tr("Turntable");
    case Tracked::camera_slide:
      return QObject::tr("Slider");
    case Tracked::camera_pan:
      return QObject::tr("Pan");
    case Tracked::camera_tilt:
      return QObject::tr("Camera tilt");
    case Tracked::camera_focus:
      return QObject::tr("Focus");
    case Tracked::camera_place:
      return QObject::tr("Camera travel");
    case Tracked::camera_aim:
      return QObject::tr("Camera aim");
    case Tracked::camera_roll:
      return QObject::tr("Camera roll");
    case Tracked::camera_focal:
      return QObject::tr("Zoom");
    case Tracked::crop:
      return QObject::tr("Crop");
    case Tracked::light_dimmer:
      return QObject::tr("dimmer");
    case Tracked::product_turn:
    case Tracked::light_turn:
    case Tracked::card_turn:
      return QObject::tr("turn");
    case Tracked::product_tilt:
      return QObject::tr("tilt");
    case Tracked::product_place:
    case Tracked::light_place:
    case Tracked::card_place:
      return QObject::tr("travel");
    case Tracked::light_doors:
      return QObject::tr("doors");
    case Tracked::light_aim:
      return QObject::tr("aim");
    case Tracked::backdrop_place:
      return QObject::tr("Backdrop travel");
    case Tracked::backdrop_tilt:
      return QObject::tr("Backdrop tilt");
  }
  return {};
}

}  // namespace

QString trackName(const Session& s, const std::string& target) {
  const auto read = read_target(target);
  if (!read) return q(target);
  const QString does = trackDoes(read->kind->is);
  return read->id.empty() ? does : movedThing(s, *read) + " " + does;
}
QString trackValue(const Session& s, const std::string& target, double v) {
  switch (told(target)) {
    case Told::metres:
      return q(length_text(v, s.units()));
    case Told::millimetres:
      return q(number_text(v * 1e3, 4)) + " mm";
    case Told::percent:
      return q(fixed_text(v * 100, 0)) + " %";
    case Told::degrees:
      break;
  }
  return q(number_text(std::round(v * 10) / 10, 5)) + QChar(0x00B0);
}
QString trackNow(const Session& s, const KeyedTrack& track, double set_time) {
  if (is_target(track.target, Tracked::crop))
    return QObject::tr("%1 wide").arg(trackValue(s, track.target, track.place_at(set_time).z));
  if (track.places.size() == 1) return QObject::tr("stands");
  return trackValue(s, track.target, track.at(set_time));
}

namespace {

/// From where to where a track goes, and where it is now.
QString trackNote(const Session& s, const KeyedTrack& track, double set_time) {
  if (track.keys.empty()) return QObject::tr("no keys");
  const QString now = trackNow(s, track, set_time), last = trackNow(s, track, track.keys.back().first);
  if (track.keys.size() == 1) return now;
  if (!track.places.empty() && !is_target(track.target, Tracked::crop))
    return QObject::tr("%1 of way, now %2").arg(last, now);
  return QObject::tr("%1 to %2, now %3").arg(trackNow(s, track, track.keys.front().first), last, now);
}

}  // namespace

LadderView::LadderView(Session* session, Foresight* foresight, QWidget* parent)
    : Painted("ladder", tr("Ladder"),
              tr("Left and right step by a kept frame, Home and End go to the ends, brackets move the rung at the "
                 "cursor, N and B choose the next and the last key of the tracks, Space plays"),
              parent),
      session_(session) {
  setMouseTracking(true);
  const auto chip = [this](const QString& text, const char* name, const QString& says, bool checkable) {
    auto* button = new WordButton(text, WordButton::Look::chip, this);
    button->setObjectName(name);
    button->setAccessibleName(says);
    button->setToolTip(says);
    button->setCheckable(checkable);
    return button;
  };
  play_ = chip(tr("Play"), "play", tr("Play or stop"), true);
  onScreen_ = chip(tr("as on screen"), "playOnScreen",
                   tr("Play as it will be on screen, not as fast as on the set"), true);
  loop_ = chip(tr("Loop"), "playLoop", tr("Play round and round"), true);
  add_ = chip(tr("+ track"), "addTrack", tr("Add a track, or take one off"), false);
  profile_ =
      chip(tr("linear"), "trackProfile",
           tr("How the track moves between its keys: linear, by thirds, smoothest, s-curve, trapezoid"), false);
  onScreen_->setChecked(true);
  time_ = new NumberField(this);
  time_->setAccessibleName(tr("Time of the key"));
  value_ = new NumberField(this);
  value_->setAccessibleName(tr("Value of the key"));
  connect(play_, &WordButton::clicked, this, &LadderView::togglePlay);
  connect(add_, &WordButton::clicked, this, &LadderView::trackMenu);
  connect(profile_, &WordButton::clicked, this, [this] {
    if (!selected_ || !session_->shot()) return;
    const auto now = static_cast<std::size_t>(session_->shot()->tracks[selected_->track].shape);
    setProfile(selected_->track, shape_names()[(now + 1) % shape_names().size()]);
  });
  connectKey();
  player_.setInterval(40);
  connect(&player_, &QTimer::timeout, this, &LadderView::tick);
  connect(session_, &Session::changed, this, [this] {
    refreshControls();
    update();
  });
  connect(session_, &Session::shotChanged, this, [this] {
    selectKey(std::nullopt);
    if (player_.isActive()) togglePlay();
  });
  connect(session_, &Session::timeChanged, this, [this] { update(); });
  connect(foresight, &Foresight::levels, this, [this](const std::vector<Level>& levels, bool) {
    levels_ = levels;
    update();
  });
  levels_ = foresight->told();
  refreshControls();
}

/// The numbers of the key in hand.
void LadderView::connectKey() {
  const auto typed = [this](bool keep) {
    return [this, keep](double) {
      if (selected_) changeKey(*selected_, time_->spec().value, value_->spec().value, keep);
    };
  };
  connect(time_, &NumberField::previewed, this, [this](double v) {
    if (selected_) changeKey(*selected_, v, value_->spec().value, false);
  });
  connect(time_, &NumberField::entered, this, [this](double v) {
    if (selected_) changeKey(*selected_, v, value_->spec().value, true);
  });
  connect(value_, &NumberField::previewed, this, typed(false));
  connect(value_, &NumberField::entered, this, [this](double v) {
    if (selected_) changeKey(*selected_, time_->spec().value, v, true);
  });
  for (NumberField* field : {time_, value_}) connect(field, &NumberField::refused, session_, &Session::message);
}

double LadderView::scale() const {
  const Shot* s = session_->shot();
  const double longest = s ? std::max({s->screen_time, s->set_time(), 1e-3}) : 1.0;
  return (width() - left - right) / longest;
}
QPointF LadderView::onSetRail(double t) const {
  const Shot* s = session_->shot();
  return {left + (s && s->reversed ? s->set_time() - t : t) * scale(), height() - 66.0};
}
double LadderView::setTimeAt(double x) const {
  const Shot* s = session_->shot();
  const double t = (x - left) / scale();
  return s && s->reversed ? s->set_time() - t : t;
}
QPointF LadderView::onScreenRail(double t) const { return {left + t * scale(), height() - 26.0}; }

double LadderView::rowHeight() const {
  const Shot* shot = session_->shot();
  const double rows = shot ? static_cast<double>(shot->tracks.size()) : 0.0, room = onSetRail(0).y() - 22 - 8;
  return rows > 0 ? std::min(22.0, room / rows) : 0;
}
QRectF LadderView::rowBox(std::size_t track) const {
  const double end = session_->shot() ? std::max(0.0, session_->shot()->set_time()) : 0.0;
  return {left, 8 + static_cast<double>(track) * rowHeight(), end * scale(), std::max(4.0, rowHeight() - 4)};
}
std::pair<double, double> LadderView::span(const KeyedTrack& track) const {
  if (tracked(track.target) == Tracked::light_dimmer) return {0.0, 1.0};
  double low = 1e9, high = -1e9;
  for (const auto& [when, v] : track.keys) low = std::min(low, v), high = std::max(high, v);
  return low > high ? std::pair{0.0, 1.0} : std::pair{low, high};
}
QPointF LadderView::onKey(const KeyPlace& place) const {
  const KeyedTrack& track = session_->shot()->tracks[place.track];
  const auto [low, high] = span(track);
  const auto& [when, v] = track.keys[place.key];
  const QRectF box = rowBox(place.track);
  return {onSetRail(when).x(),
          box.bottom() - 2 - (high > low ? (v - low) / (high - low) : 0.5) * (box.height() - 4)};
}

void LadderView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 7, 80, 15}, Qt::AlignLeft | Qt::AlignVCenter, tr("Ladder"), textFont(11), t.quiet);
  const Shot* shot = session_->shot();
  if (!shot) return;
  paintTracks(p);
  paintRungs(p);
  paintEffects(p);
  paintWorst(p);
  // The cursor on both rails.
  const QPointF a = onSetRail(session_->setTime()), b = onScreenRail(shot->clock.screen_at(session_->setTime()));
  p.setPen(QPen(t.accent, 1.6));
  p.drawLine(QPointF(a.x(), 6), a);
  p.drawLine(a, b);
  p.setBrush(t.accent);
  p.drawEllipse(a, 3.6, 3.6);
  p.drawEllipse(b, 3.6, 3.6);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void LadderView::paintTracks(QPainter& p) {
  const Theme& t = theme();
  const Shot& shot = *session_->shot();
  const double end = std::max(0.0, shot.set_time());
  const auto between = [&](double from, double to, const QRectF& band) {  // set times, in whichever order
    const double a = onSetRail(std::clamp(from, 0.0, end)).x(), b = onSetRail(std::clamp(to, 0.0, end)).x();
    return QRectF(std::min(a, b), band.top(), std::max(2.0, std::abs(b - a)), band.height());
  };
  for (std::size_t k = 0; k < shot.tracks.size(); ++k) {
    const KeyedTrack& track = shot.tracks[k];
    const QRectF band = rowBox(k);
    p.fillRect(band, t.track);
    if (is_target(track.target, Tracked::turntable) && shot.facing) {  // when the label is asked to face
      const double a = shot.clock.set_at(shot.facing->at),
                   b = shot.clock.set_at(shot.facing->at + shot.facing->lasting);
      QColor good = t.good;
      good.setAlpha(90);
      p.fillRect(between(a, b, band), good);
    }
    if (!shot.peak_light.empty() && shot.facing && lightOf(track.target) == shot.peak_light) {
      // where the light should be brightest: a twentieth of a turn about the label's facing
      const double a = shot.clock.set_at(shot.facing->at),
                   b = shot.clock.set_at(shot.facing->at + shot.facing->lasting);
      QColor wanted = t.leaning;
      wanted.setAlpha(90);
      p.fillRect(between(a, b, band), wanted);
    }
    const auto [low, high] = span(track);
    QPainterPath path;
    for (int i = 0; i <= 120; ++i) {
      const double when = end * i / 120, v = track.at(when);
      const QPointF at(onSetRail(when).x(),
                       band.bottom() - 2 - (high > low ? (v - low) / (high - low) : 0.5) * (band.height() - 4));
      i == 0 ? path.moveTo(at) : path.lineTo(at);
    }
    p.setPen(QPen(is_target(track.target, Tracked::turntable) ? t.accent : t.ink, 1.5));
    p.setBrush(Qt::NoBrush);
    p.drawPath(path);
    for (std::size_t i = 0; i < track.keys.size(); ++i) {
      const QPointF at = onKey({k, i});
      if (at.x() > band.right() + 3) continue;
      const bool held = selected_ == KeyPlace{k, i};
      p.setPen(QPen(t.ink, 1.2));
      p.setBrush(held ? t.accent : t.panel);
      p.drawRect(QRectF(at.x() - 3, at.y() - 3, 6, 6));
    }
    drawText(p, {nameLeft, band.top() - 1, left - nameLeft - 8, rowHeight()}, Qt::AlignRight | Qt::AlignVCenter,
             trackName(*session_, track.target), textFont(11), t.ink);
    // The fields of the key in hand stand there, a little over their row.
    if (selected_ && (selected_->track == k || selected_->track + 1 == k || selected_->track == k + 1)) continue;
    const QString note = trackNote(*session_, track, session_->setTime());
    const double x = std::max(band.right(), width() - right) + 34;  // beside the last label
    drawText(p, {x, band.top() - 1, width() - x - 8, rowHeight()}, Qt::AlignLeft | Qt::AlignVCenter, note,
             textFont(11), t.quiet);
  }
}

void LadderView::paintRungs(QPainter& p) {
  const Theme& t = theme();
  const Shot* shot = session_->shot();
  const double end = std::max(0.0, shot->set_time()), timeline = session_->project().timeline_rate;
  const double rate = shot->camera ? shot_optics(session_->project(), *shot->camera).rate : timeline;
  const double y0 = onSetRail(0).y(), y1 = onScreenRail(0).y();
  // One rung per kept frame; where fewer are recorded than shown, those invented are broken.
  const long frames = std::lround(shot->screen_time * timeline);
  const long stride = std::max(1L, frames / 600);
  long last = -1;
  bool invented = false;
  for (long k = 0; k < frames; k += stride) {
    const double screen = static_cast<double>(k) / timeline;
    const long recorded = kept_frame(shot->clock, k, rate, timeline);
    const bool made_up = recorded == last;
    invented = invented || made_up;
    last = recorded;
    const bool strong = k % std::lround(std::max(1.0, timeline / 4)) == 0;
    p.setPen(made_up ? QPen(t.accent, 1.0, Qt::DashLine) : QPen(strong ? t.ink : t.line, strong ? 1.1 : 0.8));
    p.drawLine(onSetRail(static_cast<double>(recorded) / rate), onScreenRail(screen));
  }
  if (grip_ == Grip::rung) {
    p.setPen(QPen(t.accent, 2));
    p.drawLine(onSetRail(shot->clock.set_at(grippedRung_)), onScreenRail(grippedRung_));
  }
  p.setPen(QPen(t.ink, 1.4));
  p.drawLine(onSetRail(0), onSetRail(end));
  p.drawLine(onScreenRail(0), onScreenRail(shot->screen_time));
  drawText(p, {10, y0 - 8, left - 18, 16}, Qt::AlignRight | Qt::AlignVCenter, tr("on set"), textFont(11), t.ink);
  drawText(p, {10, y1 - 8, left - 18, 16}, Qt::AlignRight | Qt::AlignVCenter, tr("on screen"), textFont(11),
           t.ink);
  const auto [fast, slow] = shot->clock.speed_span(0, end);
  const QString speed = std::abs(fast - slow) < 1e-6
                            ? q(number_text(fast * 100, 3)) + " %"
                            : q(number_text(fast * 100, 3)) + " % to " + q(number_text(slow * 100, 3)) + " %";
  drawText(p, {10, (y0 + y1) / 2 - 8, left - 18, 16}, Qt::AlignRight | Qt::AlignVCenter,
           shot->reversed ? tr("backward, %1").arg(speed) : speed, numberFont(11), invented ? t.accent : t.quiet);
  const double wanted = 70 / scale();
  double step = 0.1;
  for (const double s : {0.05, 0.1, 0.2, 0.25, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 60.0})
    if (step = s; s >= wanted) break;
  // Those whose words would run into the buttons are left out.
  const double last_word = width() - right - 34.0;
  for (double at = 0; at <= end + 1e-6; at += step)
    if (onSetRail(at).x() <= last_word)
      drawText(p, {onSetRail(at).x() - 2, y0 - 15, 50, 13}, Qt::AlignLeft | Qt::AlignVCenter,
               q(fixed_text(at, step < 0.1 ? 2 : 1)), numberFont(9.5), t.quiet);
  for (double at = 0; at <= shot->screen_time + 1e-6 && onScreenRail(at).x() <= last_word; at += step)
    drawText(p, {onScreenRail(at).x() - 2, y1 + 4, 60, 13}, Qt::AlignLeft | Qt::AlignVCenter,
             q(fixed_text(at, step < 0.1 ? 2 : 1)) + " s", numberFont(9.5), t.quiet);
  const double x = std::max(onScreenRail(shot->screen_time).x(), width() - right) + 8;
  drawText(p, {x, y1 + 4, width() - x - 8, 16}, Qt::AlignLeft | Qt::AlignVCenter,
           invented ? tr("%1 shown, some invented").arg(frames)
                    : tr("%1 frames, %2 a second on set").arg(frames).arg(q(number_text(rate, 5))),
           textFont(11), invented ? t.accent : t.quiet);
}

/// A notch under the set rail at the worst moment of each level that is not level.
void LadderView::paintWorst(QPainter& p) {
  const Theme& t = theme();
  if (session_->shot()->tracks.empty()) return;
  for (const Level& l : levels_) {
    if (!l.set_time || (l.state != State::out && l.state != State::leaning)) continue;
    const QPointF at = onSetRail(*l.set_time) + QPointF(0, 2);
    QPainterPath notch(at);
    notch.lineTo(at + QPointF(4, 7));
    notch.lineTo(at + QPointF(-4, 7));
    notch.closeSubpath();
    p.fillPath(notch, l.state == State::out ? t.accent : t.leaning);
  }
}

void LadderView::placeControls() {
  const double y0 = onSetRail(0).y(), x = width() - right + 8;
  int at = static_cast<int>(x);
  for (WordButton* button : {play_, onScreen_, loop_}) {
    button->setGeometry(at, static_cast<int>(y0) - 6, button->sizeHint().width() - 8, 20);
    at += button->width() + 4;
  }
  add_->setGeometry(10, 24, add_->sizeHint().width() - 6, 18);
  if (!selected_ || !session_->shot() || selected_->track >= session_->shot()->tracks.size()) return;
  const int top = std::clamp(static_cast<int>(rowBox(selected_->track).top()) - 8, 2, static_cast<int>(y0) - 46);
  time_->setGeometry(static_cast<int>(x), top, 62, 34);
  value_->setGeometry(static_cast<int>(x) + 66, top, 70, 34);
  profile_->setGeometry(static_cast<int>(x) + 140, top + 9, 84, 20);
}

void LadderView::refreshControls() {
  const Shot* shot = session_->shot();
  // Room for every track, up to half a dozen.
  const int tracks = shot ? static_cast<int>(shot->tracks.size()) : 0;
  setFixedHeight(150 + 18 * std::clamp(tracks - 2, 0, 4));
  if (selected_ && (!shot || selected_->track >= shot->tracks.size() ||
                    selected_->key >= shot->tracks[selected_->track].keys.size()))
    selected_.reset();
  for (QWidget* w : std::initializer_list<QWidget*>{time_, value_, profile_}) w->setVisible(selected_.has_value());
  // A place is not typed here: the cursor goes to it, and the floor and In hand move it there.
  if (selected_) value_->setVisible(shot->tracks[selected_->track].places.empty());
  for (QWidget* w : std::initializer_list<QWidget*>{play_, onScreen_, loop_, add_}) w->setVisible(shot != nullptr);
  if (selected_) {
    const KeyedTrack& track = shot->tracks[selected_->track];
    const auto& [when, v] = track.keys[selected_->key];
    const std::string target = track.target;
    time_->setSpec({.name = tr("Key at"),
                    .id = "keyTime",
                    .value = when,
                    .step = 0.02,
                    .text = [](double s) { return q(number_text(s, 5)) + " s"; },
                    .parse =
                        [](const QString& text) {
                          QString plain = text.trimmed();
                          if (plain.endsWith('s')) plain.chop(1);
                          return parse_number(plain.trimmed().toStdString());
                        }});
    const Told how = told(target);
    const Units units = session_->units();
    value_->setSpec({.name = trackName(*session_, target),
                     .id = "keyValue",
                     .value = v,
                     .step = how == Told::metres        ? 0.005
                             : how == Told::percent     ? 0.02
                             : how == Told::millimetres ? 0.001
                                                        : 1.0,
                     .text = [this, target](double value) { return trackValue(*session_, target, value); },
                     .parse = [how, units](const QString& text) -> std::optional<double> {
                       QString plain = text.trimmed();
                       if (how == Told::metres) return parse_length(plain.toStdString(), units);
                       plain.remove(QChar(0x00B0)).remove('%').remove("mm");
                       const auto number = parse_number(plain.trimmed().toStdString());
                       if (!number) return std::nullopt;
                       return *number * (how == Told::percent ? 0.01 : how == Told::millimetres ? 0.001 : 1.0);
                     }});
    profile_->setText(shapeWord(track.shape));
  }
  placeControls();
}

}  // namespace cinnabar
