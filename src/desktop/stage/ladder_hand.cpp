// The ladder under the hand: keys and rungs dragged and stepped, tracks added, copied and taken off, and play.
#include <QApplication>
#include <QClipboard>
#include <QDateTime>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>
#include <map>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/stage/ladder_view.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/effects_seen.h"
#include "cinnabar/project/making/begun_track.h"
#include "cinnabar/project/model/ranges.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

std::string keys_pointer(const Session& s, std::size_t track) {
  return "/shots/" + std::to_string(s.shotIndex()) + "/tracks/" + std::to_string(track) + "/keys";
}

}  // namespace

std::optional<std::size_t> LadderView::rowAt(const QPointF& at) const {
  if (!session_->shot()) return std::nullopt;
  for (std::size_t k = 0; k < session_->shot()->tracks.size(); ++k)
    if (rowBox(k).adjusted(-6, -2, 6, 2).contains(at)) return k;
  return std::nullopt;
}

std::optional<KeyPlace> LadderView::keyAt(const QPointF& at) const {
  std::optional<KeyPlace> best;
  double nearest = 8.0;
  if (!session_->shot()) return best;
  for (std::size_t k = 0; k < session_->shot()->tracks.size(); ++k)
    for (std::size_t i = 0; i < session_->shot()->tracks[k].keys.size(); ++i) {
      const QPointF d = onKey({k, i}) - at;
      const double off = std::hypot(d.x(), d.y());
      if (off < nearest) nearest = off, best = KeyPlace{k, i};
    }
  return best;
}

std::optional<double> LadderView::rungAt(const QPointF& at) const {
  const Shot* shot = session_->shot();
  if (!shot) return std::nullopt;
  const double y0 = onSetRail(0).y(), y1 = onScreenRail(0).y();
  if (at.y() < y0 + 6 || at.y() > y1 - 6) return std::nullopt;
  // The rung through this place: its ends lie at set_at(s) above and s below.
  const double part = (at.y() - y0) / (y1 - y0), timeline = session_->project().timeline_rate;
  std::optional<double> best;
  double nearest = 5.0;
  const long frames = std::lround(shot->screen_time * timeline);
  for (long k = 1; k < frames; ++k) {
    const double screen = static_cast<double>(k) / timeline;
    const double x = onSetRail(shot->clock.set_at(screen)).x() * (1 - part) + onScreenRail(screen).x() * part;
    if (std::abs(x - at.x()) < nearest) nearest = std::abs(x - at.x()), best = screen;
  }
  return best;
}

std::vector<ToldPart> LadderView::parts() const {
  std::vector<ToldPart> list;
  for (std::size_t t = 0; session_->shot() && t < session_->shot()->tracks.size(); ++t) {
    const KeyedTrack& track = session_->shot()->tracks[t];
    for (std::size_t k = 0; k < track.keys.size(); ++k) {
      const QPointF at = onKey({t, k});
      list.push_back(
          {tr("%1, key at %2 s").arg(trackName(*session_, track.target), q(fixed_text(track.keys[k].first, 2))),
           q(key_text(track, k)), QRectF(at.x() - 5, at.y() - 5, 10, 10).toRect(), selected_ == KeyPlace{t, k}});
    }
  }
  if (!session_->shot() || !effects_) return list;
  for (const ToldEffect& told : effects_->list())
    if (told.outcome)
      for (const EffectEvent& event : told.outcome->events) {
        const QPointF at = onMoment(event.at);
        list.push_back({tr("%1: %2").arg(q(effect_name(*told.effect)), q(in_words(event.name.c_str()))),
                        tr("at %1 s").arg(q(fixed_text(event.at, 2))),
                        QRectF(at.x() - 4, at.y() - 5, 8, 10).toRect(), false});
      }
  return list;
}

void LadderView::selectKey(std::optional<KeyPlace> place) {
  selected_ = place;
  refreshControls();
  if (selected_ && !session_->shot()->tracks[selected_->track].places.empty())
    session_->setSetTime(std::clamp(session_->shot()->tracks[selected_->track].keys[selected_->key].first, 0.0,
                                    session_->shot()->set_time()));
  update();
  tellChosenPart();
}

void LadderView::scrub(const QPointF& at) {
  if (!session_->shot()) return;
  const double screen = (at.x() - onScreenRail(0).x()) / scale();
  session_->setSetTime(onLower_
                           ? session_->shot()->clock.set_at(std::clamp(screen, 0.0, session_->shot()->screen_time))
                           : setTimeAt(at.x()));
}

void LadderView::changeKey(const KeyPlace& place, double time, double value, bool keep) {
  const Shot* shot = session_->shot();
  if (!shot || place.track >= shot->tracks.size()) return;
  KeyedTrack track = shot->tracks[place.track];
  auto& keys = track.keys;
  if (place.key >= keys.size()) return;
  // A key stays between its neighbours: keys keep their order.
  const double low = place.key > 0 ? keys[place.key - 1].first + 1e-3 : -1e5,
               high = place.key + 1 < keys.size() ? keys[place.key + 1].first - 1e-3 : 1e5;
  const auto target = read_target(track.target);
  const Range range = target ? target->kind->range : angle_range;
  keys[place.key] = {std::clamp(time, low, high), range.clamped(value)};
  const Session::Values values{{keys_pointer(*session_, place.track), keys_json(track)}};
  if (keep)
    session_->keep(tr("%1 key moved").arg(trackName(*session_, track.target)), values);
  else
    session_->preview(values);
}

void LadderView::addKey(std::size_t track, double time) {
  const KeyedTrack& now = session_->shot()->tracks[track];
  time = std::clamp(std::round(time * 1e3) / 1e3, 0.0, session_->shot()->set_time());
  std::vector<double> times;
  for (const auto& key : now.keys) times.push_back(key.first);
  const auto at = static_cast<std::size_t>(std::lower_bound(times.begin(), times.end(), time) - times.begin());
  if (at < times.size() && times[at] - time < 1e-3) return selectKey(KeyPlace{track, at});
  if (at > 0 && time - times[at - 1] < 1e-3) return selectKey(KeyPlace{track, at - 1});
  times.insert(times.begin() + static_cast<std::ptrdiff_t>(at), time);
  const QString name = trackName(*session_, now.target);
  if (session_->keep(tr("%1 key added").arg(name),
                     {{keys_pointer(*session_, track), keys_json(now.resampled(times))}}))
    selectKey(KeyPlace{track, at});
}

void LadderView::removeKey(const KeyPlace& place) {
  const KeyedTrack& track = session_->shot()->tracks[place.track];
  const QString name = trackName(*session_, track.target);
  std::vector<double> times;
  for (std::size_t i = 0; i < track.keys.size(); ++i)
    if (i != place.key) times.push_back(track.keys[i].first);
  selectKey(std::nullopt);
  if (!times.empty()) {
    session_->keep(tr("%1 key taken off").arg(name),
                   {{keys_pointer(*session_, place.track), keys_json(track.resampled(times))}});
    return;
  }
  const std::string tracks = "/shots/" + std::to_string(session_->shotIndex()) + "/tracks";
  Json list = value_at(session_->document(), tracks).value_or(Json::array());
  list.erase(list.begin() + static_cast<std::ptrdiff_t>(place.track));
  session_->keep(tr("%1 track taken off").arg(name), {{tracks, list}});
}

void LadderView::moveRung(double screen, double set, bool keep) {
  const Shot* shot = session_->shot();
  if (!shot) return;
  const auto moved = with_rung(shot->clock, screen, set);
  if (!moved) {
    if (keep) session_->dropPreview();
    return;
  }
  Json play = Json::array();
  for (const SpeedPoint& p : moved->points()) play.push_back({p.set_time, p.speed});
  const Session::Values values{{"/shots/" + std::to_string(session_->shotIndex()) + "/play", play}};
  if (keep)
    session_->keep(tr("Ramp at %1 s on screen").arg(QString::fromStdString(fixed_text(screen, 2))), values);
  else
    session_->preview(values);
}

void LadderView::setProfile(std::size_t track, const std::string& profile) {
  session_->keep(
      tr("%1 moves %2")
          .arg(trackName(*session_, session_->shot()->tracks[track].target), QString::fromStdString(profile)),
      {{"/shots/" + std::to_string(session_->shotIndex()) + "/tracks/" + std::to_string(track) + "/profile",
        profile}});
}

std::vector<std::string> LadderView::targetsToAdd() const {
  std::vector<std::string> all;
  const Shot* shot = session_->shot();
  for (const TrackKind& kind : track_kinds()) {
    const auto each = [&](const auto& things, auto id_of) {
      for (const auto& thing : things) all.push_back(target_text(kind, id_of(thing)));
    };
    const auto own = [](const auto& thing) { return thing.id; };
    if (kind.moved == TrackedThing::product) {
      if (shot) each(shot->products, [](const ShotProduct& p) { return p.product; });
    } else if (kind.moved == TrackedThing::light || kind.moved == TrackedThing::card) {
      if (session_->setup() && kind.moved == TrackedThing::light)
        for (const Light& light : session_->setup()->lights)
          if (!light.window && (light.doors || kind.is != Tracked::light_doors))
            all.push_back(target_text(kind, light.id));
      if (session_->setup() && kind.moved == TrackedThing::card) each(session_->setup()->cards, own);
    } else if (kind.moved != TrackedThing::backdrop ||
               (session_->setup() && session_->setup()->backdrop.kind != BackdropKind::none)) {
      all.push_back(target_text(kind, {}));
    }
  }
  std::erase_if(all, [&](const std::string& target) { return shot && shot->track(target); });
  return all;
}

void LadderView::addTrack(const std::string& target) {
  const Shot* shot = session_->shot();
  if (!shot) return;
  const std::string tracks = "/shots/" + std::to_string(session_->shotIndex()) + "/tracks";
  Json list = value_at(session_->document(), tracks).value_or(Json::array());
  list.push_back({{"target", target},
                  {"profile", "minimum-jerk"},
                  {"keys", keys_json(begun_track(session_->project(), *shot, target))}});
  if (session_->keep(tr("%1 track added").arg(trackName(*session_, target)), {{tracks, list}}))
    selectKey(KeyPlace{list.size() - 1, 1});
}

void LadderView::trackMenu() {
  auto* menu = new QMenu(this);
  menu->setObjectName("trackActions");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  // What there may be several of stands in a menu of its own kind.
  std::map<TrackedThing, QMenu*> kinds;
  const std::pair<TrackedThing, QString> titles[] = {{TrackedThing::camera, tr("Camera")},
                                                     {TrackedThing::product, tr("Product")},
                                                     {TrackedThing::light, tr("Light")},
                                                     {TrackedThing::card, tr("Card")},
                                                     {TrackedThing::backdrop, tr("Backdrop")}};
  const auto targets = targetsToAdd();
  for (const std::string& target : targets)
    if (const auto by = moved_by(target); by == TrackedThing::table || by == TrackedThing::frame)
      menu->addAction(trackName(*session_, target), this, [this, target] { addTrack(target); });
  for (const auto& [by, title] : titles)
    for (const std::string& target : targets)
      if (moved_by(target) == by) {
        if (!kinds[by]) kinds[by] = menu->addMenu(title);
        kinds[by]->addAction(plainAction(trackName(*session_, target)), this,
                             [this, target] { addTrack(target); });
      }
  if (session_->shot() && !session_->shot()->tracks.empty()) {
    menu->addSeparator();
    for (std::size_t k = 0; k < session_->shot()->tracks.size(); ++k)
      menu->addAction(tr("Take off %1").arg(plainAction(trackName(*session_, session_->shot()->tracks[k].target))),
                      this, [this, k] {
                        const std::string tracks = "/shots/" + std::to_string(session_->shotIndex()) + "/tracks";
                        const QString name = trackName(*session_, session_->shot()->tracks[k].target);
                        Json list = value_at(session_->document(), tracks).value_or(Json::array());
                        list.erase(list.begin() + static_cast<std::ptrdiff_t>(k));
                        selectKey(std::nullopt);
                        session_->keep(tr("%1 track taken off").arg(name), {{tracks, list}});
                      });
  }
  if (session_->shot()) {
    menu->addSeparator();
    const bool backward = session_->shot()->reversed;
    menu->addAction(backward ? tr("Play it forward") : tr("Play it backward"), this, [this, backward] {
      session_->keep(backward ? tr("Played forward") : tr("Played backward"),
                     {{"/shots/" + std::to_string(session_->shotIndex()) + "/reversed",
                       backward ? std::nullopt : std::optional<Json>(true)}});
    });
    if (session_->shot()->clock.points().size() > 1)
      menu->addAction(tr("Play at one speed"), this, [this] {
        session_->keep(tr("Ramp taken out"), {{"/shots/" + std::to_string(session_->shotIndex()) + "/play",
                                               Json{{0.0, session_->shot()->clock.speed_at(0.0)}}}});
      });
  }
  menu->popup(add_->mapToGlobal(QPoint(0, add_->height())));
}

/// Keys travel between tracks and shots as text: a line each, the second and what stands there, tabs between.
void LadderView::copyKeys() {
  if (!selected_) return;
  QString text;
  const Json keys = keys_json(session_->shot()->tracks[selected_->track]);
  for (const Json& key : keys) {
    QStringList line{q(number_text(key[0].get<double>(), 9))};
    const Json values = key[1].is_array() ? key[1] : Json::array({key[1]});
    for (const Json& v : values) line << q(number_text(v.get<double>(), 9));
    text += line.join('\t') + "\n";
  }
  QApplication::clipboard()->setText(text);
  emit session_->message(tr("Keys copied"));
}
void LadderView::pasteKeys() {
  if (!selected_) return;
  const std::size_t track = selected_->track, columns = session_->shot()->tracks[track].places.empty() ? 2 : 4;
  Json keys = Json::array();
  for (const QString& line : QApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts)) {
    std::vector<double> numbers;
    for (const std::string& part : split(line.toStdString(), '\t'))
      if (const auto number = parse_number(part)) numbers.push_back(*number);
    if (numbers.size() != columns || (!keys.empty() && numbers[0] <= keys.back()[0].get<double>())) {
      emit session_->message(
          tr("Not pasted: the clipboard holds no keys of this kind; copy such a track's first"));
      return;
    }
    if (columns == 2)
      keys.push_back({numbers[0], numbers[1]});
    else
      keys.push_back({numbers[0], {numbers[1], numbers[2], numbers[3]}});
  }
  if (keys.empty()) return;
  const QString name = trackName(*session_, session_->shot()->tracks[track].target);
  selectKey(std::nullopt);
  if (session_->keep(tr("%1 keys pasted").arg(name), {{keys_pointer(*session_, track), keys}}))
    selectKey(KeyPlace{track, 0});
}

void LadderView::togglePlay() {
  if (player_.isActive()) {
    player_.stop();
    play_->setChecked(false);
    play_->setText(tr("Play"));
    return;
  }
  const Shot* shot = session_->shot();
  if (!shot) return play_->setChecked(false);
  const bool on_screen = onScreen_->isChecked();
  if (on_screen ? shot->clock.screen_at(session_->setTime()) >= shot->screen_time - 1e-6
                : session_->setTime() >= shot->set_time() - 1e-6)
    session_->setSetTime(on_screen ? shot->clock.set_at(0.0) : 0.0);
  lastTick_ = QDateTime::currentMSecsSinceEpoch();
  player_.start();
  play_->setChecked(true);
  play_->setText(tr("Stop"));
}

void LadderView::tick() {
  const Shot* shot = session_->shot();
  if (!shot) return togglePlay();
  const qint64 now = QDateTime::currentMSecsSinceEpoch();
  const double seconds = static_cast<double>(now - lastTick_) / 1000.0;
  lastTick_ = now;
  // By the clock that it is played by: the screen's or the set's.
  const bool on_screen = onScreen_->isChecked();
  const double end = on_screen ? shot->screen_time : shot->set_time();
  const auto set_of = [&](double time) { return on_screen ? shot->clock.set_at(time) : time; };
  double next = (on_screen ? shot->clock.screen_at(session_->setTime()) : session_->setTime()) + seconds;
  if (next >= end) {
    if (!loop_->isChecked()) {
      session_->setSetTime(set_of(end));
      return togglePlay();
    }
    next = std::fmod(next, std::max(end, 1e-3));
  }
  session_->setSetTime(set_of(next));
}

void LadderView::mousePressEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  grip_ = Grip::none;
  if (event->button() != Qt::LeftButton || !session_->shot()) return;
  if (const auto key = keyAt(at)) {
    selectKey(key);
    grip_ = Grip::key;
    return;
  }
  if (const auto moment = momentAt(at)) {
    grip_ = Grip::moment;
    gripped_ = *moment;
    if (!moment->wanted)
      letGoBefore_ = effects_->list()[moment->effect].outcome->events[moment->event].at -
                     session_->shot()->effects[moment->effect].at;
    return;
  }
  if (const auto rung = rungAt(at)) {
    grip_ = Grip::rung;
    grippedRung_ = *rung;
    return;
  }
  grip_ = Grip::cursor;
  onLower_ = at.y() > (onSetRail(0).y() + onScreenRail(0).y()) / 2;
  scrub(at);
}

void LadderView::mouseMoveEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  if (!(event->buttons() & Qt::LeftButton)) {
    const auto level = std::find_if(levels_.begin(), levels_.end(), [&](const Level& l) {
      return l.set_time && (l.state == State::out || l.state == State::leaning) &&
             std::abs(onSetRail(*l.set_time).x() - at.x()) < 5 && std::abs(onSetRail(0).y() + 5 - at.y()) < 6;
    });
    setToolTip(level == levels_.end() ? QString() : plainTip(q(level->title + ": " + level->sentence)));
    setCursor(keyAt(at) ? Qt::SizeAllCursor : momentAt(at) || rungAt(at) ? Qt::SizeHorCursor : Qt::ArrowCursor);
    return;
  }
  const double time = setTimeAt(at.x());
  if (grip_ == Grip::cursor) return scrub(at);
  if (grip_ == Grip::key && selected_) {
    const KeyedTrack& track = session_->shot()->tracks[selected_->track];
    const auto [low, high] = span(track);
    const QRectF box = rowBox(selected_->track);
    // Up and down within the row's own span; the held key's ends do not stretch it while it is dragged.
    const double up = (box.bottom() - 2 - at.y()) / std::max(1.0, box.height() - 4);
    const bool level = event->modifiers() & Qt::ShiftModifier || high <= low;
    const double value = level ? track.keys[selected_->key].second : low + std::clamp(up, 0.0, 1.0) * (high - low);
    changeKey(*selected_, time, value, false);
  }
  if (grip_ == Grip::rung) moveRung(grippedRung_, time, false);
  if (grip_ == Grip::moment) moveMoment(at.x());
}

void LadderView::mouseReleaseEvent(QMouseEvent*) {
  const Grip grip = std::exchange(grip_, Grip::none);
  if (!session_->previewing() || !session_->shot()) return;
  if (grip == Grip::key && selected_) {
    const auto& [t, v] = session_->shot()->tracks[selected_->track].keys[selected_->key];
    changeKey(*selected_, t, v, true);
  }
  if (grip == Grip::moment) keepMoment();
  if (grip == Grip::rung) {
    Json play = Json::array();
    for (const SpeedPoint& p : session_->shot()->clock.points()) play.push_back({p.set_time, p.speed});
    session_->keep(tr("Ramp at %1 s on screen").arg(QString::fromStdString(fixed_text(grippedRung_, 2))),
                   {{"/shots/" + std::to_string(session_->shotIndex()) + "/play", play}});
  }
  update();
}

void LadderView::mouseDoubleClickEvent(QMouseEvent* event) {
  const auto row = rowAt(event->position());
  if (!row || keyAt(event->position())) return;
  addKey(*row, setTimeAt(event->position().x()));
}

/// Keys of the keyboard that act on the chosen key; false for those that do not.
bool LadderView::keyOnKeyboard(QKeyEvent* event) {
  const Shot& shot = *session_->shot();
  std::vector<KeyPlace> all;
  for (std::size_t k = 0; k < shot.tracks.size(); ++k)
    for (std::size_t i = 0; i < shot.tracks[k].keys.size(); ++i) all.push_back({k, i});
  const auto step = [&](std::ptrdiff_t by) {
    if (all.empty()) return;
    const auto now = selected_ ? std::find(all.begin(), all.end(), *selected_) - all.begin() : (by > 0 ? -1 : 0);
    const auto n = static_cast<std::ptrdiff_t>(all.size());
    selectKey(all[static_cast<std::size_t>(((now + by) % n + n) % n)]);
  };
  if (event->matches(QKeySequence::Copy)) return copyKeys(), true;
  if (event->matches(QKeySequence::Paste)) return pasteKeys(), true;
  switch (event->key()) {
    case Qt::Key_N:
      return step(1), true;
    case Qt::Key_B:
      return step(-1), true;
    case Qt::Key_Escape:
      if (!selected_) return false;
      return selectKey(std::nullopt), true;
    case Qt::Key_Insert:
    case Qt::Key_I:
      if (!shot.tracks.empty()) addKey(selected_ ? selected_->track : 0, session_->setTime());
      return true;
    default:
      break;
  }
  if (!selected_) return false;
  const KeyPlace place = *selected_;
  const auto [t, v] = shot.tracks[place.track].keys[place.key];
  const double big = event->modifiers() & Qt::ShiftModifier ? 10.0 : 1.0;
  switch (event->key()) {
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
      return removeKey(place), true;
    case Qt::Key_Up:
      return changeKey(place, t, v + big * value_->spec().step, true), true;
    case Qt::Key_Down:
      return changeKey(place, t, v - big * value_->spec().step, true), true;
    case Qt::Key_Left:
      return changeKey(place, t - big * 0.02, v, true), true;
    case Qt::Key_Right:
      return changeKey(place, t + big * 0.02, v, true), true;
    default:
      return false;
  }
}

void LadderView::keyPressEvent(QKeyEvent* event) {
  const Shot* shot = session_->shot();
  if (!shot) return QWidget::keyPressEvent(event);
  if (keyOnKeyboard(event)) return;
  const double frame = 1.0 / session_->project().timeline_rate,
               screen = shot->clock.screen_at(session_->setTime());
  const double rate = shot->camera ? shot_optics(session_->project(), *shot->camera).rate : 1.0 / frame;
  switch (event->key()) {
    case Qt::Key_Left:
      return session_->setSetTime(shot->clock.set_at(std::max(0.0, screen - frame)));
    case Qt::Key_Right:
      return session_->setSetTime(shot->clock.set_at(std::min(shot->screen_time, screen + frame)));
    case Qt::Key_Home:
      return session_->setSetTime(0);
    case Qt::Key_End:
      return session_->setSetTime(shot->set_time());
    case Qt::Key_Space:
      return togglePlay();
    case Qt::Key_BracketLeft:
    case Qt::Key_BracketRight: {
      const double by = (event->key() == Qt::Key_BracketLeft ? -1.0 : 1.0) / rate;
      const double set = session_->setTime() + by;
      moveRung(screen, set, true);
      return session_->setSetTime(set);
    }
    default:
      return QWidget::keyPressEvent(event);
  }
}

}  // namespace cinnabar
