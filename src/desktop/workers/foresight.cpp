#include "cinnabar/desktop/workers/foresight.h"

#include <QPointer>
#include <chrono>
#include <thread>

#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/desktop/workers/picture_maker.h"

namespace cinnabar {

Foresight::Foresight(const MeasureQuality& closely, QObject* parent)
    : QObject(parent), full_(closely), quick_(full_.with_quality(quick_measure)) {}

void Foresight::askLevels(const Project& project, std::size_t shot) {
  const int ticket = ++levelsAsked_;
  told_.clear(), toldClosely_ = false;
  measuring_ = ticket;
  const QPointer<Foresight> self(this);
  levelWorker_.ask([this, self, project, shot, ticket](const std::atomic<bool>& cancelled) {
    struct Done {  // however it ends; a newer request has its own number by then
      std::atomic<int>& measuring;
      int own;
      ~Done() { measuring.compare_exchange_strong(own, 0); }
    } done{measuring_, ticket};
    for (const bool close : {false, true}) {
      const Forecaster& by = close ? full_ : quick_;
      // The whole spot's: what needs no light at once, the promised features closely.
      std::vector<Level> whole;
      const auto tell = [&](std::vector<Level> list, bool last) {
        list.insert(list.end(), whole.begin(), whole.end());
        later(self, [self, list = std::move(list), last, ticket] {
          if (ticket != self->levelsAsked_) return;
          self->told_ = list, self->toldClosely_ = last;
          emit self->levels(self->told_, last);
        });
      };
      whole = spot_levels(project);
      // Each doubling of the passes is shown as it comes: what is sure by then stays.
      auto list = close ? by.sure_levels(project, shot, {}, &cancelled,
                                         [&](const std::vector<Level>& round) { tell(round, false); })
                        : by.levels(project, shot, {}, &cancelled);
      if (cancelled || shot >= project.shots.size()) return;
      if (close) {
        tell(list, false);  // the shot's own do not wait for the spot's
        whole = by.spot(project, {}, &cancelled);
        if (cancelled) return;
      }
      tell(std::move(list), close);
    }
  });
}

namespace {

struct Falling {
  std::vector<double> shares;
  double lux = 0;
};
/// Shares over all the faces that the camera can see, so that a light from the side counts too.
Falling falling(const LightMoment& moment) {
  Falling out;
  const auto& faces = moment.measure->faces;
  if (faces.empty()) return out;
  double all = 0;
  out.shares.assign(faces.front().per_luminance.size() + 1, 0.0);
  for (const Reading& face : faces) {
    for (std::size_t l = 0; l + 1 < out.shares.size(); ++l) out.shares[l] += moment.lux_of(face, l);
    out.shares.back() += face.ambient_per_luminance * moment.weights.back().x;
    all += moment.lux(face);
    out.lux = std::max(out.lux, moment.lux(face));
  }
  for (double& s : out.shares) s = all > 0 ? s / all : 0;
  return out;
}

}  // namespace

void Foresight::askLight(const Project& project, std::size_t shot, double setTime) {
  const int ticket = ++lightAsked_;
  const QPointer<Foresight> self(this);
  lightWorker_.ask([this, self, project, shot, setTime, ticket](const std::atomic<bool>& cancelled) {
    for (const bool close : {false, true}) {
      if (shot >= project.shots.size()) return;
      const auto moment = full_.measures().at(project, *project.shots[shot], setTime,
                                              (close ? full_ : quick_).quality(), &cancelled);
      if (cancelled || !moment) return;
      later(self, [self, found = falling(*moment), ticket] {
        if (ticket != self->lightAsked_) return;
        self->shares_ = found.shares;
        self->lux_ = found.lux;
        emit self->light();
      });
    }
  });
}

void Foresight::askLevers(const Document& document, std::size_t shot, const std::string& level,
                          const std::vector<Level>& known) {
  const QPointer<Foresight> self(this);
  leverWorker_.ask([this, self, document, shot, level, known](const std::atomic<bool>& cancelled) {
    const auto proved = [&](const Lever& lever, std::size_t tried, std::size_t all) {
      if (cancelled) return;
      later(self, [self, lever, level, tried, all] {
        emit self->leverProved(QString::fromStdString(level), lever, static_cast<int>(tried),
                               static_cast<int>(all));
      });
    };
    const auto found = is_of_spot(level)
                           ? full_.spot_levers(document, level, &cancelled)
                           : full_.levers(document, shot, level, &cancelled, {.proved = proved, .known = known});
    if (cancelled) return;
    later(self, [self, found, level] { emit self->levers(QString::fromStdString(level), found); });
  });
}

int Foresight::askMove(const Document& document, const std::string& move, std::size_t place,
                       const std::string& setup) {
  stopMove(moveMaking_);
  const int number = moveMaking_ = ++movesAsked_;
  const QPointer<Foresight> self(this);
  moveWorker_.ask([self, number, document, move, place, setup](const std::atomic<bool>& cancelled) {
    const auto made = std::make_shared<const Expected<MoveMade>>(
        with_move(Forecaster(search_measure), document, move, place - 1, {.setup = setup}, &cancelled));
    if (cancelled) return;
    later(self, [self, number, document, made] {
      if (self->moveMaking_ != number) return;
      self->moveMaking_ = 0;
      emit self->moveMade(number, document, made);
    });
  });
  return number;
}

void Foresight::stopMove(int number) {
  if (number == 0 || number != moveMaking_) return;
  moveMaking_ = 0;
  moveWorker_.stop();
  emit moveStopped(number);
}

void Foresight::giveWay(const std::atomic<bool>& cancelled) const {
  while ((measuring_ != 0 || held_ > 0) && !cancelled) std::this_thread::sleep_for(std::chrono::milliseconds(20));
}

int Foresight::askTouched(const Document& before, const Document& after, std::size_t own) {
  const int number = ++touchesAsked_;
  const QPointer<Foresight> self(this);
  touchWorker_.ask([this, self, number, before, after, own](const std::atomic<bool>& cancelled) {
    giveWay(cancelled);
    const auto shots = cinnabar::touched(full_, before, after, own, &cancelled);
    if (cancelled) return;
    later(self, [self, number, shots] {
      if (number == self->touchesAsked_) emit self->touched(number, shots);
    });
  });
  return number;
}

void Foresight::askGlances(const Document& document, const Project& project) {
  // A shot is looked at again when anything it is made of changed.
  std::size_t common = 0;
  const auto mix = [](std::size_t& h, const void* p) {
    h = (h ^ reinterpret_cast<std::size_t>(p)) * 0x9E3779B97F4A7C15ULL + (h >> 7);
  };
  for (const char* key : {"project", "house_rules", "bands"})
    if (const auto found = document.singles.find(key); found != document.singles.end())
      mix(common, found->second.get());
  for (const auto& [key, list] : document.lists)
    if (key != "shots" && key != "setups" && key != "takes")
      for (const JsonPtr& item : list) mix(common, item.get());
  std::vector<std::pair<std::size_t, std::size_t>> due;  // shot, key
  const auto& shots = document.list("shots");
  for (std::size_t i = 0; i < shots.size() && i < project.shots.size(); ++i) {
    std::size_t key = common;
    mix(key, shots[i].get());
    mix(key, document.find("setups", project.shots[i]->setup));
    if (glanceKeys_.value(QString::fromStdString(project.shots[i]->id)) != key) due.emplace_back(i, key);
  }
  if (due.empty()) return;
  const QPointer<Foresight> self(this);
  glanceWorker_.ask([this, self, document, project, due](const std::atomic<bool>& cancelled) {
    // Pictures first: they come at once, and the counts after them.
    std::vector<QImage> pictures;
    for (const auto& [index, key] : due) {
      pictures.push_back(thumbnail(project, *project.shots[index], 200, cancelled));
      if (cancelled) return;
      later(self, [self, id = QString::fromStdString(project.shots[index]->id), picture = pictures.back()] {
        self->glances_[id].picture = picture;
        emit self->glances();
      });
    }
    std::size_t next = 0;
    for (const auto& [index, key] : due) {
      giveWay(cancelled);
      ShotGlance glance;
      glance.picture = pictures[next++];
      glance.counts = tally(full_.sure_levels(project, index, {}, &cancelled));
      if (cancelled) return;
      glance.known = true;
      later(self, [self, id = QString::fromStdString(project.shots[index]->id), glance, key = key] {
        self->glances_[id] = glance;
        self->glanceKeys_[id] = key;
        emit self->glances();
      });
    }
  });
}

const ShotGlance* Foresight::glance(const std::string& shotId) const {
  const auto found = glances_.constFind(QString::fromStdString(shotId));
  return found == glances_.constEnd() ? nullptr : &*found;
}

}  // namespace cinnabar
