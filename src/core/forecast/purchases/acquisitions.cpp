#include "cinnabar/forecast/purchases/acquisitions.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <mutex>
#include <set>
#include <tuple>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/all_cores.h"
#include "cinnabar/forecast/measures/strongest.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/project/model/field.h"

namespace cinnabar {
namespace {

using Maybe = std::optional<Document>;

Document with(Document doc, const std::string& pointer, const Json& value) {
  auto next = with_value(doc, pointer, value);
  return next ? std::move(*next) : std::move(doc);
}
std::string id_of(const Json& j) { return j.value("id", ""); }
std::string name_of(const Json& j) {
  const std::string name = j.value("name", "");
  return name.empty() ? id_of(j) : name;
}
double number(const Json& j, const char* key, double otherwise) {
  const auto found = j.find(key);
  return found != j.end() && found->is_number() ? found->get<double>() : otherwise;
}
/// A member multiplied, where it is there.
void scale(Json& j, const char* key, double factor) {
  if (const auto found = j.find(key); found != j.end() && found->is_number())
    *found = found->get<double>() * factor;
}
/// The document with the thing owned, under its id.
Document owned(Document doc, const std::string& list, const Json& item) {
  Json mine = item;
  mine["owned"] = true;
  auto& items = doc.lists[list];
  for (JsonPtr& old : items)
    if (id_of(*old) == id_of(item)) {
      old = std::make_shared<const Json>(std::move(mine));
      return doc;
    }
  items.push_back(std::make_shared<const Json>(std::move(mine)));
  return doc;
}

class Putting {
 public:
  Putting(const Document& document, const Acquisition& thing) : thing_(thing), item_(*thing.item) {
    ProjectReader reader;
    project_ = reader.read(document);
    changed_ = owned(document, thing.list, item_);
    if (thing.list == "kit/lenses") lens();
    if (thing.list == "kit/lights") light();
    if (thing.list == "kit/cameras") camera();
    if (thing.list == "kit/supports") support();
  }
  [[nodiscard]] const Document& changed() const { return changed_; }

  /// What could further be set in a shot, the first leaving it as it is.
  struct Further {
    std::string how;
    double stops_open, stops_iso;
  };
  [[nodiscard]] static const std::vector<Further>& further(const std::string& list) {
    static const std::vector<Further> as_it_is{{"", 0, 0}};
    static const std::vector<Further> faster{{"", 0, 0}, {"opened a stop, ISO a stop lower", 1, -1}};
    static const std::vector<Further> brighter{
        {"", 0, 0}, {"ISO a stop lower", 0, -1}, {"stopped down a stop", -1, 0}};
    return list == "kit/lenses" ? faster : list == "kit/lights" ? brighter : as_it_is;
  }

  [[nodiscard]] Maybe set(const Document& doc, std::size_t shot, const Further& f) const {
    if (f.stops_open == 0 && f.stops_iso == 0) return doc;
    const auto& camera = project_.shots[shot]->camera;
    if (!camera) return std::nullopt;
    ProjectReader reader;
    const Project now = reader.read(doc);
    const ShotCamera& c = *now.shots[shot]->camera;
    const LensSpec* lens = by_id(now.lenses, c.lens);
    const CameraBody* body = by_id(now.cameras, c.camera);
    const double f_number = c.f_number * std::pow(2.0, -f.stops_open / 2.0),
                 iso = c.iso * std::pow(2.0, f.stops_iso);
    if (lens && (f_number < lens->f_number_low * 0.999 || f_number > lens->f_number_high * 1.001))
      return std::nullopt;
    if (body && (iso < body->iso_low * 0.999 || iso > body->iso_high * 1.001)) return std::nullopt;
    const std::string path = fmt::format("/shots/{}/camera", shot);
    return with(with(doc, path + "/f_number", std::round(f_number * 100) / 100), path + "/iso", std::round(iso));
  }

 private:
  [[nodiscard]] bool replaces(const std::string& id) const {
    return thing_.stands_for.empty() || thing_.stands_for == id;
  }

  /// Mounted where it gives the same field: its focal length reaches it, or the camera goes so far that it does.
  void lens() {
    const double low = number(item_, "focal_low", 0.05), high = number(item_, "focal_high", low),
                 open = number(item_, "f_number_low", 1.0), closed = number(item_, "f_number_high", 32),
                 nearest = number(item_, "close_focus", 0);
    for (std::size_t i = 0; i < project_.shots.size(); ++i) {
      const auto& camera = project_.shots[i]->camera;
      if (!camera || !replaces(camera->lens)) continue;
      const double focal = std::clamp(camera->focal, low, high), ratio = focal / camera->focal;
      const Vec3 place = camera->aim + (camera->place - camera->aim) * ratio;
      const double focus = camera->focus + length(place - camera->aim) - length(camera->place - camera->aim);
      if (focus < nearest || focus <= 1.05 * focal) continue;
      const std::string path = fmt::format("/shots/{}/camera", i);
      changed_ = with(changed_, path + "/lens", id_of(item_));
      changed_ = with(changed_, path + "/focal", focal);
      changed_ = with(changed_, path + "/f_number", std::clamp(camera->f_number, open, closed));
      if (std::abs(ratio - 1) > 1e-9) {
        changed_ = with(changed_, path + "/place", Json{place.x, place.y, place.z});
        changed_ = with(changed_, path + "/focus", focus);
      }
    }
  }

  /// In place of the lights it stands for; "second" ones come beside those that are there, mirrored, at half.
  void light() {
    const bool second = item_.value("second", false);
    const LightKit* replaced = by_id(project_.light_kits, thing_.stands_for);
    ProjectReader reader;
    const Project with_it = reader.read(changed_);
    const LightKit* kit = by_id(with_it.light_kits, id_of(item_));
    const double output = kit && kit->output ? kit->output->lumens : 0.0;
    for (std::size_t s = 0; s < project_.setups.size(); ++s) {
      const Setup& setup = *project_.setups[s];
      const auto strongest = strongest_light(setup, product_place(project_, setup));
      for (std::size_t l = 0; l < setup.lights.size(); ++l) {
        const Light& light = setup.lights[l];
        const bool own = thing_.stands_for.empty() ? strongest && l == *strongest : light.kit == thing_.stands_for;
        if (!own) continue;
        const std::string path = fmt::format("/setups/{}/lights/{}", s, l);
        if (second) {
          Json copy = *value_at(changed_, path);
          copy["id"] = light.id + "-second", copy["name"] = name_of(item_);
          copy["place"][0] = -light.place.x;
          copy["dimmer"] = 0.5 * light.dimmer;
          changed_ = with(changed_, fmt::format("/setups/{}/lights/-", s), copy);
          break;
        }
        changed_ = with(changed_, path + "/kit", id_of(item_));
        const double was = replaced && replaced->output ? replaced->output->lumens : light.lumens;
        // A light that names its own lumens has them for a reason (a projector's throw): they grow alike.
        const double lumens = was > 0 && replaced ? light.lumens * output / was : output;
        changed_ = with(changed_, path + "/lumens", lumens);
        if (kit)
          changed_ = with(changed_, path + "/kelvin", std::clamp(light.kelvin, kit->kelvin_low, kit->kelvin_high));
      }
    }
  }

  void camera() {
    const auto modes = item_.find("modes");
    if (modes == item_.end() || modes->empty()) return;
    for (std::size_t i = 0; i < project_.shots.size(); ++i) {
      const auto& camera = project_.shots[i]->camera;
      if (!camera || !replaces(camera->camera)) continue;
      const CameraBody* body = by_id(project_.cameras, camera->camera);
      double rate = project_.timeline_rate;
      if (body)
        for (const CameraMode& m : body->modes)
          if (m.id == camera->mode) rate = m.rate;
      std::string mode;
      double nearest = 1e300;
      for (const Json& m : *modes) {
        const double far = std::abs(parse_rate(m.value("rate", "")).value_or(0) - rate) -
                           (m.value("id", "") == camera->mode ? 1e-6 : 0.0);
        if (far < nearest) nearest = far, mode = m.value("id", "");
      }
      const std::string path = fmt::format("/shots/{}/camera", i);
      changed_ = with(with(changed_, path + "/camera", id_of(item_)), path + "/mode", mode);
    }
  }

  void support() {
    Support read;
    read_fields(*fields_of("kit/supports"), item_, &read);
    const auto kind = read.kind;
    if (kind == SupportKind::slider) {  // the first one owned is the one that slides
      auto& list = changed_.lists["kit/supports"];
      const auto mine =
          std::find_if(list.begin(), list.end(), [&](const JsonPtr& j) { return id_of(*j) == id_of(item_); });
      if (mine != list.end()) std::rotate(list.begin(), mine, mine + 1);
    }
    for (std::size_t i = 0; i < project_.shots.size(); ++i)
      for (std::size_t k = 0; k < project_.shots[i]->products.size(); ++k) {
        const std::string& on = project_.shots[i]->products[k].on;
        const Support* now = by_id(project_.supports, on);
        if (now && now->kind == kind && replaces(on))
          changed_ = with(changed_, fmt::format("/shots/{}/products/{}/on", i, k), id_of(item_));
      }
  }

  const Acquisition& thing_;
  const Json& item_;
  Project project_;
  Document changed_;
};

}  // namespace

std::optional<double> Bought::per_hundred() const {
  if (!thing.price || *thing.price <= 0.0) return std::nullopt;
  return 100.0 * homes / *thing.price;
}

namespace {

/// What the kit lists and does not own.
std::vector<Acquisition> listed(const Document& document) {
  std::vector<Acquisition> list;
  for (const char* key : {"kit/cameras", "kit/lenses", "kit/lights", "kit/supports", "kit/media", "kit/batteries"})
    for (const JsonPtr& item : document.list(key))
      if (!item->value("owned", true)) {
        const auto price = item->find("price");
        list.push_back(
            {key,
             item,
             {},
             name_of(*item),
             price != item->end() && price->is_number() ? std::optional(price->get<double>()) : std::nullopt});
      }
  return list;
}

}  // namespace

std::vector<Acquisition> acquisitions(const Document& document) {
  std::vector<Acquisition> list = listed(document);
  ProjectReader reader;
  const Project project = reader.read(document);
  std::set<std::string> lenses, lights, cameras, tables;
  bool slides = false;
  for (const auto& shot : project.shots) {
    if (shot->camera) lenses.insert(shot->camera->lens), cameras.insert(shot->camera->camera);
    slides = slides || shot->track(Tracked::camera_slide);
    for (const ShotProduct& p : shot->products) tables.insert(p.on);
  }
  for (const auto& setup : project.setups)
    for (const Light& l : setup->lights) lights.insert(l.kit);

  const auto idea = [&](const char* key, const std::string& id, const std::string& suffix,
                        const std::string& words, const auto& change) {
    const Json* old = document.find(key, id);
    if (!old || !old->value("owned", true)) return;
    Json item = *old;
    item["id"] = fresh_id(document, key, id + suffix);
    item["name"] = said("{}, {}", name_of(*old), words);
    item.erase("price"), item.erase("count");
    if (!change(item)) return;
    list.push_back({key, std::make_shared<const Json>(item), id, name_of(item), std::nullopt});
  };
  for (const std::string& id : lenses)
    idea("kit/lenses", id, "-faster", in_words("a stop faster"), [](Json& j) {
      j["f_number_low"] = std::round(number(j, "f_number_low", 2.8) / std::sqrt(2.0) * 10) / 10;
      return number(j, "f_number_low", 0) >= 0.7;
    });
  for (const std::string& id : lights) {
    idea("kit/lights", id, "-stronger", in_words("twice the output"), [](Json& j) {
      for (const char* key : {"lumens", "candela", "watts"}) scale(j, key, 2.0);
      if (const auto lux = j.find("lux"); lux != j.end()) scale(*lux, "illuminance_lx", 2.0);
      return j.contains("lumens") || j.contains("candela") || j.contains("lux");
    });
    idea("kit/lights", id, "-second", in_words("a second one"), [](Json& j) {
      j["second"] = true;
      return true;
    });
  }
  for (const std::string& id : cameras)
    idea("kit/cameras", id, "-cleaner", in_words("a sensor a stop cleaner"), [](Json& j) {
      j["full_well_e"] = 2.0 * number(j, "full_well_e", 50000);
      j["read_noise_e"] = 0.5 * number(j, "read_noise_e", 3);
      j.erase("measured_noise");
      return true;
    });
  for (const std::string& id : tables)
    idea("kit/supports", id, "-stronger", in_words("four times the load, slower and faster"), [](Json& j) {
      scale(j, "load", 4.0), scale(j, "rpm_high", 4.0), scale(j, "rpm_low", 0.25);
      return j.contains("load") || j.contains("rpm_high");
    });
  if (slides)
    for (const auto& s : project.supports)
      if (s->slides() && s->holding.owned) {
        idea("kit/supports", s->id, "-longer", in_words("twice as long and as quick"), [](Json& j) {
          for (const char* key : {"travel", "speed", "acceleration"}) scale(j, key, 2.0);
          return true;
        });
        break;
      }
  for (const auto& [key, what] : {std::pair{"kit/media", "gigabytes"}, std::pair{"kit/batteries", "watt_hours"}})
    if (!document.list(key).empty())
      idea(key, id_of(*document.list(key).front()), "-more", in_words("one more of twice the size"),
           [&, what = what](Json& j) {
             scale(j, what, 2.0);
             return true;
           });
  return list;
}

namespace {

/// The project without the thing: its levels, measured once for all things.
struct Before {
  Project project;
  std::vector<std::vector<Level>> levels;
};
std::optional<Before> before(const Forecaster& forecaster, const Document& document,
                             const std::atomic<bool>* cancel) {
  Before out;
  ProjectReader reader;
  out.project = reader.read(document);
  for (std::size_t i = 0; i < out.project.shots.size(); ++i) {
    out.levels.push_back(forecaster.levels(out.project, i, {}, cancel));
    if (cancel && cancel->load()) return std::nullopt;
  }
  return out;
}

/// Whether the shot sees anything of the change. Supports and supplies are looked at everywhere: that costs no
/// light.
bool touched(const Document& was, const Document& now, const Shot& shot, const std::string& list) {
  if (list != "kit/lenses" && list != "kit/lights" && list != "kit/cameras") return true;
  return was.find("shots", shot.id) != now.find("shots", shot.id) ||
         was.find("setups", shot.setup) != now.find("setups", shot.setup);
}

/// Whether a thing of that list could have a say in a level, so that others need no staging.
bool bears_on(const std::string& list, const std::string& level) {
  static const std::map<std::string, std::vector<std::string>> says{
      {"kit/lenses", {"frame.", "focus.", "light.", "camera."}},
      {"kit/lights", {"light.", "camera.", "focus."}},
      {"kit/cameras", {"frame.", "focus.", "light.", "camera.", "motion."}},
      {"kit/supports", {"motion."}},
      {"kit/media", {"camera.media"}},
      {"kit/batteries", {"camera.media"}}};
  const auto found = says.find(list);
  return found == says.end() || std::any_of(found->second.begin(), found->second.end(),
                                            [&](const std::string& start) { return level.starts_with(start); });
}

std::optional<Bought> bought(const Forecaster& forecaster, const Document& document, const Before& before,
                             const Acquisition& thing, const std::atomic<bool>* cancel) {
  Bought out{.thing = thing, .gains = {}, .losses = {}, .how = {}};
  ProjectReader reader;
  const Putting putting(document, thing);
  for (std::size_t i = 0; i < before.project.shots.size(); ++i) {
    const std::vector<Level>& was = before.levels[i];
    const int started = weight_of(was);
    std::vector<std::string> asked;
    int asked_weight = 0;
    for (const Level& l : was)
      if (weight_of(l.state) > 0 && l.state != State::unknown && bears_on(thing.list, l.id))
        asked.push_back(l.id), asked_weight += weight_of(l.state);
    if (asked.empty() || !touched(document, putting.changed(), *before.project.shots[i], thing.list)) continue;
    // Only what is not level is looked at, until something of it gains.
    std::optional<Project> best;
    std::string how;
    int least = asked_weight;
    for (const Putting::Further& further : Putting::further(thing.list)) {
      // Another aperture is another picture: stopping down is only tried for what is too shallow.
      if (further.stops_open < 0 &&
          std::none_of(asked.begin(), asked.end(), [](const std::string& id) { return id.starts_with("focus."); }))
        continue;
      const auto next = putting.set(putting.changed(), i, further);
      if (!next) continue;
      Project changed = reader.read(*next);
      int bad = 0;
      for (const std::string& id : asked) {
        if (cancel && cancel->load()) return std::nullopt;
        const auto now = forecaster.levels(changed, i, id, cancel);
        if (!now.empty()) bad += now[0].state == State::unknown ? 2 : weight_of(now[0].state);
      }
      if (bad < least) least = bad, best = std::move(changed), how = further.how;
    }
    if (!best) continue;
    const std::vector<Level> all = forecaster.levels(*best, i, {}, cancel);
    if (cancel && cancel->load()) return std::nullopt;
    if (weight_of(all) > started) continue;  // the shot would rather do without it
    bool gained = false;
    for (const Level& now : all) {
      const auto old = std::find_if(was.begin(), was.end(), [&](const Level& l) { return l.id == now.id; });
      if (old == was.end() || old->state == State::unknown || now.state == State::unknown) continue;
      const int change = weight_of(now.state) - weight_of(old->state);
      if (change < 0) {
        out.gains.push_back({i, now.id, now.title, old->state, now.state});
        out.homes += now.state == State::level ? 1 : 0;
        gained = true;
      }
      if (change > 0) out.losses.push_back({i, now.id, now.title, old->state, now.state});
    }
    if (gained && !how.empty()) out.how.push_back(said("shot {}: {}", i + 1, how));
  }
  return out;
}

}  // namespace

std::optional<Bought> what_it_buys(const Forecaster& forecaster, const Document& document,
                                   const Acquisition& thing, const std::atomic<bool>* cancel) {
  const auto start = before(forecaster, document, cancel);
  return start ? bought(forecaster, document, *start, thing, cancel) : std::nullopt;
}

std::vector<Bought> ranked(const Forecaster& forecaster, const Document& document,
                           const std::vector<Acquisition>& things,
                           const std::function<void(std::size_t)>& progress, const std::atomic<bool>* cancel) {
  std::vector<Bought> list;
  const auto start = before(forecaster, document, cancel);
  if (!start) return list;
  std::mutex mutex;
  std::size_t done = 0;
  std::vector<std::optional<Bought>> found(things.size());
  on_all_cores(things.size(), [&](std::size_t i) {
    if (cancel && cancel->load()) return;
    found[i] = bought(forecaster, document, *start, things[i], cancel);
    const std::lock_guard lock(mutex);
    ++done;
    if (progress) progress(done);
  });
  for (auto& one : found)
    if (one) list.push_back(std::move(*one));
  const auto merit = [](const Bought& b) {
    const auto money = b.per_hundred();
    return std::tuple(b.homes > 0, money.has_value(), money.value_or(b.homes), -static_cast<int>(b.losses.size()),
                      b.gains.size());
  };
  std::stable_sort(list.begin(), list.end(),
                   [&](const Bought& a, const Bought& b) { return merit(a) > merit(b); });
  return list;
}

}  // namespace cinnabar
