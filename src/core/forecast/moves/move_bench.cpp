#include "cinnabar/forecast/moves/move_bench.h"

#include <fmt/format.h>

#include <algorithm>
#include <tuple>

#include "cinnabar/base/text.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/forecast/measures/strongest.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

double tidy(double v) { return std::round(v * 1e4) / 1e4; }

/// A mode of the kit for a wanted rate: the slowest that is quick enough, the most pixels among those; else the
/// quickest there is.
struct ChosenMode {
  const CameraBody* body = nullptr;
  const CameraMode* mode = nullptr;
};
/// Recorded pixels for each delivered one, in the shape that has fewest.
double pixel_room(const Project& p, const ChosenMode& m) {
  ShotCamera camera;
  camera.camera = m.body->id, camera.mode = m.mode->id;
  const ShotOptics optics = shot_optics(p, camera);
  double least = 1e9;
  for (const Deliverable& d : p.deliverables)
    least = std::min(least, delivered_frame(d, optics).across / optics.pitch / d.width);
  return least;
}
/// Of the modes with the pixels for everything that is delivered, if one of them is at least half as quick or
/// twice the timeline; else of all.
ChosenMode mode_for(const Project& p, double rate, const std::string& preferred) {
  ChosenMode best;
  const auto better = [&](const ChosenMode& a, const ChosenMode& b) {
    const double enough = std::min(rate, 2.0 * p.timeline_rate) * 0.999;
    const bool room_a = a.mode->rate >= enough && pixel_room(p, a) >= 1.0,
               room_b = b.mode->rate >= enough && pixel_room(p, b) >= 1.0;
    if (room_a != room_b) return room_a;
    const bool fits_a = a.mode->rate >= rate * 0.999, fits_b = b.mode->rate >= rate * 0.999;
    if (fits_a != fits_b) return fits_a;
    if (std::abs(a.mode->rate - b.mode->rate) > 1e-6)
      return fits_a ? a.mode->rate < b.mode->rate : a.mode->rate > b.mode->rate;
    return a.mode->width > b.mode->width;
  };
  const bool known = by_id(p.cameras, preferred) != nullptr;
  for (const auto& body : p.cameras) {
    if (known ? body->id != preferred : !body->holding.owned) continue;
    for (const CameraMode& m : body->modes)
      if (const ChosenMode now{body.get(), &m}; !best.mode || better(now, best)) best = now;
  }
  return best;
}

}  // namespace

MoveBench::MoveBench(const Document& document, std::size_t after, const ReadyMove& move, const std::string& setup,
                     std::optional<double> seconds)
    : asked_seconds(seconds), document_(document), after_(after) {
  const auto& shots = document.list("shots");
  const Json* like = after < shots.size() ? shots[after].get() : shots.empty() ? nullptr : shots.back().get();
  if (like) like_size = like->value("size", "");
  const Json made = new_shot(document_, like, move.title);
  shot = {{"id", made.at("id")}, {"name", move.title}, {"move", move.id}};
  for (const char* kept : {"setup", "products", "camera"})
    if (made.contains(kept)) shot[kept] = made.at(kept);
  ProjectReader reader;
  project_ = reader.read(document_);
  if (!shot.contains("products") || shot["products"].empty()) {
    if (project_.products.empty()) (void)new_shot(document_, nullptr, "");
    project_ = reader.read(document_);
    if (!project_.products.empty())
      shot["products"] = {{{"product", project_.products.front()->id}, {"place", {0, 0, 0}}, {"turn_deg", 0}}};
  }
  if (!setup.empty()) shot["setup"] = setup;
  if (!shot.contains("setup") && !project_.setups.empty()) shot["setup"] = project_.setups.front()->id;
  for (Json& placed : shot["products"]) {
    placed["place"] = {0, 0, 0};
    placed["turn_deg"] = 0;
    placed.erase("on");
    break;  // the hero stands in the middle; what else is there stays where it was
  }
  if (!shot.contains("camera") || !shot["camera"].is_object()) shot["camera"] = Json::object();
  setup_ = by_id(project_.setups, shot.value("setup", ""));
  const Product* product =
      shot["products"].empty() ? nullptr : by_id(project_.products, shot["products"][0].value("product", ""));
  if (!product || product->parts.empty()) return;
  std::tie(low, high) = height_span(*product);
  radius = widest_reach(*product);
  mass = product->mass;
  if (product->label) {
    label_height = (product->label->low + product->label->high) / 2;
    label_bearing = product->label->bearing_deg;
    label_stroke = product->label->stroke;
  }
}

std::size_t MoveBench::chosen(HouseRule rule) const {
  std::vector<HouseRules> over{read_house_rules(shot.value("house_rules", Json::object()))};
  if (own_) over.push_back(read_house_rules(own_->value("house_rules", Json::object())));
  if (!own_ && setup_) over.push_back(setup_->house_rules);
  for (const HouseRules& rules : over)
    if (const auto own = rules.find(rule); own != rules.end()) return own->second;
  return project_.chosen(rule);
}

/// The nearest length whose out-cut falls on a beat, at least one beat; as asked where the spot has no tempo.
double MoveBench::on_beat(double seconds) const {
  if (!project_.beats_per_minute) return seconds;
  const double beat = 60.0 / *project_.beats_per_minute;
  const double start = project_.starts_at(after_ == static_cast<std::size_t>(-1) ? 0 : after_ + 1);
  double out = std::round((start + seconds) / beat) * beat;
  while (out - start < 0.6 * beat) out += beat;
  return std::round((out - start) * 1e6) / 1e6;
}

namespace {

/// How long it is open by the rule of the house.
double open_for(ShutterRule rule, double rate, double mains_hz) {
  const double half = 0.5 / rate;
  if (rule == ShutterRule::crisp) return 0.2 / rate;
  if (rule != ShutterRule::flicker_safe) return half;
  const double half_period = 0.5 / mains_hz;
  const double open = std::max(1.0, std::floor(0.9 / rate / half_period)) * half_period;
  return open > 0.95 / rate ? half : open;  // no whole period fits: the usual, and the level says so
}

/// The longest lens that stays within reach of a table, so that the product keeps its shape.
struct ChosenLens {
  const LensSpec* lens = nullptr;
  double focal = 0.05;
};
ChosenLens lens_for(const Project& project, const ShotOptics& optics, double radius,
                    const std::function<double(double)>& away) {
  ChosenLens best;
  double best_cost = 1e300;
  for (const auto& lens : project.lenses) {
    if (!lens->holding.owned) continue;
    for (const double f : {lens->focal_low, (lens->focal_low + lens->focal_high) / 2, lens->focal_high}) {
      const double d = away(f), nearest = std::max(lens->close_focus, 1.05 * f);
      double cost = d > 1.4 ? 2 * (d - 1.4) : std::max(0.0, 0.6 - d);
      if (d - radius < nearest) cost += 100 * (nearest - d + radius) + 10;
      // Its widest aperture blurs by diffraction already: a probe is for where nothing else reaches.
      if (2.44 * 0.55e-6 * lens->f_number_low > 2.0 * optics.delivered_pitch) cost += 5;
      if (cost < best_cost - 1e-9) best = {lens.get(), f}, best_cost = cost;
    }
  }
  return best;
}

}  // namespace

void MoveBench::look(const View& view) {
  Json& camera = shot["camera"];
  const auto chosen = mode_for(project_, project_.timeline_rate * view.slow, camera.value("camera", ""));
  const double rate = chosen.mode ? chosen.mode->rate : project_.timeline_rate;
  if (chosen.mode) camera["camera"] = chosen.body->id, camera["mode"] = chosen.mode->id;
  ShotCamera now;
  now.camera = camera.value("camera", ""), now.mode = camera.value("mode", "");
  const ShotOptics optics = shot_optics(project_, now);

  const double tall =
      height() * std::cos(radians(view.elevation_deg)) + 2 * radius * std::sin(radians(view.elevation_deg));
  const auto away = [&](double f) {
    return f * (1.0 + std::max(1e-3, tall) / (view.share * optics.sensor_height)) + radius * 0.5;
  };
  const auto [best, best_focal] = lens_for(project_, optics, radius, away);
  distance = away(best_focal);
  if (best) {
    distance = std::max(distance, std::max(best->close_focus, 1.05 * best_focal) + radius + 0.002);
    camera["lens"] = best->id;
  }
  const double b = radians(view.bearing_deg), e = radians(view.elevation_deg);
  const Vec3 toward{std::sin(b) * std::cos(e), std::sin(e), std::cos(b) * std::cos(e)};
  const Vec3 right{std::cos(b), 0, -std::sin(b)};
  const double frame_wide = optics.sensor_width / best_focal * (distance - best_focal);
  // Aside only so far that the narrowest shape delivered still holds the product.
  double aside = view.aside;
  if (aside != 0.0) {
    for (const Deliverable& d : project_.deliverables) {
      const double narrow = delivered_frame(d, optics).across / optics.sensor_width,
                   room = std::max(0.0, 0.96 * narrow / 2 - radius / frame_wide);
      aside = std::clamp(aside, -room, room);
    }
  }
  aim = Vec3{0, low + view.aim_height * height(), 0} - right * (aside * frame_wide);
  place = aim + toward * distance;
  if (view.elevation_deg < 60) place.y = std::max(place.y, 0.01);

  const double open = open_for(rule<ShutterRule>(), rate, project_.mains_hz);
  // As far stopped down as what must be sharp asks for, and not so far that diffraction shows (Airy disc 2.44
  // lambda N of two delivered pixels); the shallow school keeps to the label, the deep one to the whole product.
  pitch_ = optics.delivered_pitch;
  const double deep = rule<DepthRule>() == DepthRule::deep ? 2.0 * radius
                      : label_height                       ? (view.turns ? 1.0 : 0.4) * radius
                                                           : radius;
  const double enlarged = (distance - radius) / best_focal;
  double f_number = 1.25 * deep / (2.0 * optics.delivered_pitch * enlarged * enlarged);
  f_number = std::clamp(f_number, 2.8, 2.0 * optics.delivered_pitch / (2.44 * 0.55e-6));
  if (best) f_number = std::clamp(f_number, best->f_number_low, best->f_number_high);
  f_number = std::round(f_number * 10) / 10;
  camera["focal"] = tidy(best_focal);
  camera["place"] = point(place), camera["aim"] = point(aim);
  focus_ = std::max(distance - radius + 0.45 * std::min(deep, 2.0 * radius), best_focal * 1.06);
  if (best) focus_ = std::max(focus_, best->close_focus);
  camera["focus"] = tidy(focus_);
  magnification_ = best_focal / (distance - best_focal);
  shutter_ = open, sensor_pitch_ = optics.pitch;
  camera["f_number"] = f_number;
  camera["shutter_time"] = open;
  camera["iso"] = std::round(std::clamp(400.0, optics.iso_low, optics.iso_high));
  camera["nd_stops"] = 0;
  camera["roll_deg"] = 0;
  camera["locked"] = {{"white", true}, {"exposure", true}, {"focus", true}, {"stabiliser_off", true}};
  camera.erase("slide_axis");
  shot["size"] = name_of(view.size);
  screen_seconds = asked_seconds ? *asked_seconds : on_beat(view.seconds);
  shot["screen_time"] = screen_seconds;
  set_seconds = screen_seconds;
  if (const double possible = std::min(view.slow, rate / project_.timeline_rate);
      view.slow > 1.0 && possible > 1.0) {
    shot["play"] = {{0, std::round(1e6 / possible) / 1e6}};
    shot["needs"]["slow"] = std::round(possible * 1e3) / 1e3;  // what the kit can
    set_seconds = screen_seconds / possible;
  }
  shot["takes_planned"] = 6;
}

void MoveBench::track(const std::string& target, const std::string& profile,
                      const std::vector<std::pair<double, double>>& keys) {
  Json list = Json::array();
  double last = -1;
  for (const auto& [t, v] : keys) {
    if (tidy(t) <= last) continue;
    last = tidy(t);
    list.push_back({last, tidy(v)});
  }
  shot["tracks"].push_back({{"target", target}, {"profile", profile}, {"keys", list}});
}

void MoveBench::note(const std::string& text) {
  const std::string before = shot.value("notes", "");
  shot["notes"] = before.empty() ? text : before + " " + text;
}

double MoveBench::still_speed() const {
  const double allowed = label_stroke ? *label_stroke / 5.0 : 2.0 * sensor_pitch_ / std::max(1e-6, magnification_);
  return 0.9 * allowed / std::max(1e-6, shutter_);
}

double MoveBench::on_table(double degrees_wanted, double seconds, double peak_over_mean) {
  const Support* best = nullptr;
  for (const auto& s : project_.supports)
    if (s->holding.owned && s->kind == SupportKind::turntable &&
        (!best || s->load.value_or(1e9) > best->load.value_or(1e9)))
      best = s.get();
  const double fastest = still_speed();
  if (!best)
    return std::min(degrees_wanted,
                    degrees(fastest / std::max(radius, 1e-4)) * seconds / peak_over_mean);  // by hand
  for (Json& placed : shot["products"]) placed["on"] = best->id;
  double most = std::min(degrees_wanted, degrees(fastest / std::max(radius, 1e-4)) * seconds / peak_over_mean);
  if (best->rpm_high) most = std::min(most, *best->rpm_high * 6.0 * seconds / peak_over_mean * 0.9);
  if (best->rpm_low) most = std::max(most, std::min(degrees_wanted, *best->rpm_low * 6.0 * seconds * 1.05));
  return most;
}

std::optional<double> MoveBench::table_rpm() const {
  std::optional<double> rpm;
  double most = -1;
  for (const auto& s : project_.supports)
    if (s->holding.owned && s->kind == SupportKind::turntable && s->load.value_or(1e9) > most)
      most = s->load.value_or(1e9), rpm = s->rpm_high;
  return rpm;
}

double MoveBench::slide(const Vec3& axis, double wanted, double before, const std::string& profile,
                        double peak_over_mean, bool pans) {
  const Support* slider = nullptr;
  for (const auto& s : project_.supports)
    if (s->holding.owned && s->slides() && !slider) slider = s.get();
  if (!slider || rule<MovementRule>() == MovementRule::locked_off) {
    // As far in as the recorded pixels serve what is delivered.
    ShotCamera camera;
    camera.camera = shot["camera"].value("camera", ""), camera.mode = shot["camera"].value("mode", "");
    const ShotOptics optics = shot_optics(project_, camera);
    double crop = 0.85;
    for (const Deliverable& d : project_.deliverables)
      crop = std::max(crop, 1.005 * d.width * optics.pitch / delivered_frame(d, optics).across);
    shot["crop_share"] = std::ceil(std::min(1.0, crop) * 1e3) / 1e3;
    note(slider ? "Made in the crop, as the house rule has it." : "Made in the crop: the kit has no slider.");
    return 0.0;
  }
  double way = wanted;
  if (slider->travel) way = std::min(way, 0.85 * *slider->travel);
  if (slider->speed) way = std::min(way, 0.85 * *slider->speed * set_seconds / peak_over_mean);
  // Minimum jerk has a peak of 5.77 ways over seconds squared, a trapezoid by thirds one of 4.5.
  if (slider->acceleration) way = std::min(way, 0.85 * *slider->acceleration * set_seconds * set_seconds / 5.78);
  // What smears is the label's front against the axis that the pan holds, or all of it where it only slides aside.
  const Vec3 ahead = unit(aim - place);
  const double along = dot(axis, ahead), across = std::sqrt(std::max(0.0, 1 - along * along));
  const double seen = across * (pans ? radius / distance : 1.0) + std::abs(along) * radius / distance;
  way = std::min(way, still_speed() * set_seconds / peak_over_mean / std::max(0.02, seen));
  way = std::floor(way * 1e3) / 1e3;
  shot["camera"]["slide_axis"] = point(axis);
  track(Tracked::camera_slide, profile, {{0, -way * before}, {set_seconds, way * (1 - before)}});
  if (std::abs(along) > 0.5)
    track(Tracked::camera_focus, profile,
          {{0, focus_ + way * before * along}, {set_seconds, focus_ - way * (1 - before) * along}});
  return way;
}

Json& MoveBench::own_setup(const std::string& suffix, const std::string& name) {
  if (own_) return *own_;
  Json copy = setup_ ? *document_.find("setups", setup_->id) : Json::object();
  const std::string stem = (setup_ ? setup_->id : std::string("A")) + "-" + suffix;
  copy["id"] = document_.find("setups", stem) ? fresh_id(document_, "setups", stem) : stem;
  copy["name"] = name;
  if (setup_) copy["of"] = setup_->id;  // what the move does not need otherwise it shares
  if (!copy.contains("lights")) copy["lights"] = Json::array();
  if (!copy.contains("cards")) copy["cards"] = Json::array();
  own_ = std::move(copy);
  return *own_;
}
Json& MoveBench::lights() { return own_->at("lights"); }

std::string MoveBench::strongest() const {
  if (!setup_) return {};
  const auto best = strongest_light(*setup_, {});  // ready moves stand their product at the origin
  return best ? setup_->lights[*best].id : std::string();
}

Json& MoveBench::key() {
  const std::string id = strongest();
  for (Json& l : lights())
    if (l.value("id", "") == id) return l;
  return add_light("key", "Key", {0.6, 0.6, 0.5}, {0, height() / 2, 0}, 0.5, 0.7);
}

Json& MoveBench::add_light(const std::string& id, const std::string& name, const Vec3& at, const Vec3& to,
                           double width, double height) {
  Json light{{"id", id},         {"name", name},         {"place", point(at)},
             {"aim", point(to)}, {"shape", "rectangle"}, {"width", width},
             {"height", height}, {"kelvin", 5600}};
  const auto used = [&](const std::string& x) {
    return std::any_of(lights().begin(), lights().end(), [&](const Json& l) { return l.value("id", "") == x; });
  };
  for (int k = 2; used(light["id"]); ++k) light["id"] = id + std::to_string(k);
  const LightKit* best = nullptr;
  for (const auto& kit : project_.light_kits)
    if (kit->holding.owned && kit->output && (!best || kit->output->lumens > best->output->lumens))
      best = kit.get();
  if (best) {
    light["kit"] = best->id;
    light["kelvin"] = std::clamp(5600.0, best->kelvin_low, best->kelvin_high);
    light["transmittance"] = 0.7;  // behind a diffuser
  } else {
    light["lumens"] = 4000;
  }
  lights().push_back(light);
  return lights().back();
}

std::size_t MoveBench::finish() {
  if (own_) {
    document_.lists["setups"].push_back(std::make_shared<const Json>(*own_));
    shot["setup"] = own_->at("id");
  }
  const std::size_t count = document_.list("shots").size(), at = std::min(after_ + 1, count);
  insert_shot(document_, shot, at);
  return at;
}

}  // namespace cinnabar
