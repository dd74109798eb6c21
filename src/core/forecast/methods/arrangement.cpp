#include "cinnabar/forecast/methods/arrangement.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/wishes/granting.h"
#include "cinnabar/planning/house.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

bool in_frame(const Bench& b, const Vec3& place, const Vec3& aim, double width, double height) {
  constexpr int moments = 5, across = 9;
  constexpr double margin = 1.04;
  const Facing face = facing(place, aim, 0.0);
  for (int m = 0; m < moments; ++m) {
    const CameraPose pose = camera_at(b.shot, b.shot.set_time() * m / (moments - 1));
    for (int i = 0; i < across; ++i)
      for (int j = 0; j < across; ++j) {
        const double u = (i / (across - 1.0) - 0.5) * width, v = (j / (across - 1.0) - 0.5) * height;
        const auto image = image_of(pose, place + face.right * u + face.up * v);
        if (image && std::abs(image->x) < margin * b.optics.sensor_width / 2 &&
            std::abs(image->y) < margin * b.optics.sensor_height / 2)
          return true;
      }
  }
  return false;
}

Arrangement::Arrangement(const Bench& bench, const Lay& lay) : b_(bench), lay_(lay) {
  const ShotProduct& placed = b_.shot.products.front();
  const Product* product = by_id(b_.project.products, placed.product);
  const auto [low, high] = product && !product->parts.empty() ? height_span(*product) : std::pair{0.0, 0.1};
  reach_ = product ? widest_reach(*product) : 0.05;
  tall_ = std::max(0.02, high - low);
  size_ = std::max(tall_, 2 * reach_);
  middle_ = product_at(b_.project, b_.shot, placed, 0.0).place + Vec3{0, (low + high) / 2, 0};
  const Vec3 eye = camera_at(b_.shot, 0.0).place - middle_;
  camera_ = degrees(std::atan2(eye.x, eye.z));
  free_ = owned_lamps(b_.project);
  std::erase_if(free_, [](const LightKit* kit) { return !kit->output; });
  steepest_ = b_.project.rule<OverheadRule>(b_.shot) == OverheadRule::never ? overhead_deg - 2.0 : 85.0;
  near_ = std::max(0.45, 3.5 * size_) * lay_.distance, soft_ = std::clamp(2.5 * size_, 0.25, 1.2) * lay_.size;
  card_wide_ = std::clamp(1.5 * size_, 0.15, 0.8), card_tall_ = std::clamp(1.6 * tall_, 0.15, 1.0);
}

/// Bearings from the camera's, positive to its right; distances from the product's middle.
Vec3 Arrangement::around(double bearing, double elevation, double distance) const {
  const double a = radians(camera_ + bearing), e = radians(elevation);
  return middle_ + Vec3{std::cos(e) * std::sin(a), std::sin(e), std::cos(e) * std::cos(a)} * distance;
}

/// A place for a light, as the lay has it: it comes round toward the camera, yet not before the lens.
Vec3 Arrangement::lit_from(double bearing, double elevation, double distance) const {
  const double turned = std::copysign(std::clamp(std::abs(bearing) - lay_.toward, 15.0, 175.0), bearing);
  return around(turned, std::clamp(elevation + lay_.higher, 0.0, steepest_), distance);
}

/// Drawn back from the product until the camera no longer sees it; where it was when that takes too far.
Vec3 Arrangement::clear_of_frame(const Vec3& place, const Vec3& aim, double width, double height) const {
  for (double k = 1.0; k < 3.5; k *= 1.07) {
    const Vec3 there = middle_ + (place - middle_) * k;
    if (!in_frame(b_, there, aim, width, height)) return there;
  }
  return place;
}

void Arrangement::light(const std::string& id, const std::string& name, const Vec3& at, const Vec3& aim,
                        double width, double height, double dimmer, const std::string& meant_for, double grid) {
  if (free_.empty()) return;
  const bool behind_product = length(at - middle_) < reach_ + 0.1;  // which hides it
  const Vec3 place = behind_product ? at : clear_of_frame(at, aim, width, height);
  const LightKit& kit = *free_.front();
  free_.erase(free_.begin());
  Json one = lamp_json(b_, kit, place, aim,
                       {{"id", id},
                        {"name", name},
                        {"width", tidy(width)},
                        {"height", tidy(height)},
                        {"dimmer", dimmer},
                        {"meant_for", meant_for}});
  if (grid > 0.0) one["grid_deg"] = grid;
  lights_.push_back(std::move(one));
}

/// The bearing of the window that lights it: of one that the room has, which stays where it is, else of one
/// that is put there, as large and bright as the daylight that was.
double Arrangement::window(double bearing, double elevation, double distance) {
  for (const Light& l : b_.setup->lights)
    if (l.window && l.on) {
      const Vec3 to = l.place - middle_;
      return std::remainder(degrees(std::atan2(to.x, to.z)) - camera_, 360.0);
    }
  Json one = plain_window({}, {}, std::max(0.6, 2.0 * size_) * lay_.size);
  for (std::size_t l = 0; l < b_.setup->own_lights(); ++l)
    if (b_.setup->lights[l].daylight && b_.setup->lights[l].shape == LightShape::rectangle) {
      one = value_at(b_.doc, b_.light_path(l)).value_or(one);
      break;
    }
  one["aim"] = point(middle_);
  one["place"] =
      point(clear_of_frame(lit_from(bearing, elevation, distance), middle_, one["width"], one["height"]));
  lights_.push_back(std::move(one));
  return bearing;
}

void Arrangement::card(const std::string& id, bool white, const Vec3& at, double width, double height) {
  const Vec3 place = clear_of_frame(at, middle_, width, height);
  cards_.push_back({{"id", id},
                    {"name", white ? said("White card") : said("Black card")},
                    {"place", point(place)},
                    {"aim", point(middle_)},
                    {"width", tidy(width)},
                    {"height", tidy(height)},
                    {"material", sheet_material(white ? "white" : "black")}});
}

/// A white card so far from the product.
void Arrangement::fill(double bearing, double elevation, double distance, double width, double height,
                       const char* id) {
  card(id, true, around(bearing, elevation, distance * lay_.cards), width, height);
}

void Arrangement::strip(const std::string& id, const std::string& name, double bearing, double distance,
                        double grid) {
  const double high = std::clamp(4 * tall_, 0.4, 1.4) * lay_.size;
  // Upright: one that leans over has its foot away from what it is mirrored in.
  const Vec3 up{0, 0.3 * high, 0};
  light(id, name, lit_from(bearing, 0, distance) + up, middle_ + up, std::min(0.38 * distance, high / 2.05), high,
        0.5, "product", grid);
}

bool Arrangement::without_last_card() {
  if (cards_.empty()) return false;
  cards_.erase(cards_.size() - 1);
  return true;
}

/// Half of what the camera sees across at the product, and a little.
double Arrangement::outside_frame() const {
  const CameraPose pose = camera_at(b_.shot, 0.0);
  return std::max(reach_ * 1.3, pose.depth(middle_) * b_.optics.sensor_width / 2 / pose.image_distance() + 0.01);
}

/// On either side of what the camera sees of it. Each is aimed at the far side, which keeps the near one from
/// being brighter.
void Arrangement::backdrop_lamps(int most, double dimmer) {
  const Backdrop& backdrop = b_.setup->backdrop;
  const double z = -backdrop.distance, y = middle_.y + 0.1;
  const double half = std::min(backdrop.width / 2, 2.2 * outside_frame());
  const Vec3 eye = camera_at(b_.shot, 0.0).place, through = middle_ - eye;
  const double seen = through.z < -1e-6 ? eye.x + through.x * (z - eye.z) / through.z : middle_.x,
               aside = std::max(0.0, backdrop.width / 2 - half), x = std::clamp(seen, -aside, aside);
  for (int k = 0; k < most && !free_.empty(); ++k) {
    const double side = k % 2 == 0 ? -1.0 : 1.0;
    light(fmt::format("ground-{}", k + 1), side < 0 ? said("Backdrop left") : said("Backdrop right"),
          {x + side * (half + 0.5), y + 0.3, z + 1.1 * lay_.ground}, {x - side * 0.9 * half, y, z}, 0.4, 0.4,
          dimmer, "backdrop");
  }
}

/// From high in front, where an upright body throws its image down, past a level lens: so far aside that what it
/// stands on is out of the picture.
void Arrangement::label_lamp(double near, double soft) {
  constexpr double tall = 1.2;  // of its stand, as far as it could be seen
  Vec3 at = around(40, 50, near);
  const auto seen = [&](const Vec3& place) {
    const Vec3 half_way = place - Vec3{0, tall / 2, 0};
    return in_frame(b_, half_way, {middle_.x, half_way.y, middle_.z}, 0.04, tall);
  };
  for (const double away : {1.0, 1.4, 1.9, 2.5})
    for (double bearing = 25.0; bearing < 70.0 && seen(at); bearing += 8.0) at = around(bearing, 50, near * away);
  light("label", said("Label"), at, middle_, soft, soft, 0.3, "product");
}

void Arrangement::by_strips(const std::string& id) {
  if (id == "dark-field" || id == "rims") {
    strip("rim-left", said("Rim left"), -142, near_ * 1.3, 40);
    strip("rim-right", said("Rim right"), 142, near_ * 1.3, 40);
  } else if (id == "glow") {
    strip("side", said("Side"), -70, near_ * 1.2, 60);
    const double behind = reach_ + 0.03;
    light("glow", said("Glow"), around(180, 0, behind), around(0, 0, 1.0), 1.3 * reach_, 0.55 * tall_, 0.3,
          "product");
  } else if (id == "one-strip") {
    strip("strip", said("Strip"), -62, near_ * 1.2);
    fill(65, 0, std::max(0.25, 2.2 * size_), card_wide_, card_tall_);
  } else if (id == "two-strips") {
    strip("strip-left", said("Strip left"), -78, near_ * 1.2);
    strip("strip-right", said("Strip right"), 78, near_ * 1.2);
  }
}

void Arrangement::by_faces(const std::string& id) {
  const auto face = [this](const char* name_id, const std::string& name, double bearing, double elevation,
                           double distance, double wide, double dimmer) {
    light(name_id, name, lit_from(bearing, elevation, distance), middle_, wide, wide, dimmer, "product");
  };
  if (id == "bright-field") {
    backdrop_lamps(std::min(2, lamps()), 0.7);
    for (const double side : {-1.0, 1.0}) {
      const Vec3 right = facing(middle_, around(180, 0, 1.0)).right;  // as the camera has it
      card(side < 0 ? "edge-left" : "edge-right", false,
           middle_ + right * (side * (outside_frame() + 0.3 * card_wide_)), card_wide_, card_tall_);
    }
  } else if (id == "wrap" || id == "spark") {
    face("above", said("Above"), 0, 80, near_, 1.4 * soft_, 0.6);
    if (id == "spark")
      light("spark", said("Spark"), around(-48, 35, 1.3 * near_), middle_, 0.03, 0.03, 0.2, "product");
    for (const double side : {-1.0, 1.0})
      fill(75 * side, 5, std::max(0.2, 2.0 * size_), 1.3 * card_wide_, 1.3 * card_tall_,
           side < 0 ? "white-left" : "white-right");
  } else if (id == "big-side") {
    face("large", said("Large face"), -50, 30, near_, 1.3 * soft_, 0.6);
    fill(70, 5, std::max(0.25, 2.2 * size_), card_wide_, card_tall_);
  } else if (id == "raking") {
    face("rake", said("Rake"), -125, 22, near_, 0.6 * soft_, 0.7);
    fill(50, 10, std::max(0.25, 2.0 * size_), 1.2 * card_wide_, 1.2 * card_tall_, "front");
  } else if (id == "white-ground") {
    // The strongest lights the ground, which takes most.
    backdrop_lamps(std::min(2, lamps() - 1), 0.8);
    face("key", said("Key"), -40, 35, near_, soft_, 0.4);
  } else if (id == "low-screen") {
    face("aside", said("Aside"), -95, 20, near_ * 1.4, 1.2 * soft_, 0.1);
  }
}

void Arrangement::by_window(const std::string& id) {
  if (id == "window-side") {
    const double from = window(-60, 12, std::max(1.1 * lay_.distance, 1.6 * near_));
    fill(from < 0 ? 70 : -70, 5, std::max(0.25, 2.2 * size_), card_wide_, card_tall_);
  } else if (id == "window-behind") {
    window(-145, 18, std::max(1.1 * lay_.distance, 1.6 * near_));
    for (const double side : {-1.0, 1.0})
      fill(65 * side, 8, std::max(0.2, 2.0 * size_), card_wide_, 1.2 * card_tall_,
           side < 0 ? "white-left" : "white-right");
  } else if (id == "window-front") {
    const double from = window(-28, 15, std::max(1.3 * lay_.distance, 1.8 * near_));
    fill(from < 0 ? 75 : -75, 5, std::max(0.25, 2.4 * size_), card_wide_, card_tall_);
  }
}

void Arrangement::build(const Method& method) {
  by_strips(method.id), by_faces(method.id), by_window(method.id);
  if (lay_.label) label_lamp(near_ / lay_.distance, soft_ / lay_.size);
}

Maybe Arrangement::set_up(const Method& method) const {
  Json lights = lights_;
  const auto named = lights_named();
  if (named.size() > lights.size()) return std::nullopt;
  for (std::size_t l = 0; l < named.size(); ++l) {
    if (lights[l].value("daylight", false) && lights[l]["id"] != named[l]) return std::nullopt;  // nobody moves it
    lights[l]["id"] = named[l];
  }
  Maybe next = set(set(b_.doc, b_.setup_path + "/lights", lights), b_.setup_path + "/cards", cards_);
  if (method.lamps == 0) {
    Json rules = value_at(b_.doc, b_.setup_path + "/house_rules").value_or(Json::object());
    rules["ambient"] = "window";
    next = set(next, b_.setup_path + "/house_rules", rules);
    if (b_.setup->ambient_lx <= 0.0 && !b_.setup->room.has_walls())
      next = set(next, b_.setup_path + "/ambient", beside_a_window);
  }
  if (method.rule && b_.setup->backdrop.kind != BackdropKind::none)
    next = set(next, b_.setup_path + "/backdrop/material",
               sheet_material(method.rule == BackdropRule::black ? "black" : "white"));
  return next;
}

std::vector<std::string> Arrangement::lights_named() const {
  std::vector<std::string> list;
  const auto name = [&list](const std::string& id) {
    if (!id.empty() && std::find(list.begin(), list.end(), id) == list.end()) list.push_back(id);
  };
  const auto along = setups_along(b_.doc, b_.shot.setup);
  for (const auto& shot : b_.project.shots) {
    if (!along.contains(shot->setup)) continue;
    name(shot->peak_light);
    for (const KeyedTrack& track : shot->tracks)
      if (const auto target = read_target(track.target); target && target->kind->moved == TrackedThing::light)
        name(target->id);
  }
  return list;
}

Document with_stripes(const Forecaster& forecaster, const Document& document, std::size_t shot, std::size_t strips,
                      const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Bench b(document, project, shot);
  const ShotProduct& placed = b.shot.products.front();
  const Product* product = by_id(project.products, placed.product);
  // Of the half width, where the label ends; without one a third is kept free.
  const double label = product->label ? std::sin(radians(std::min(80.0, product->label->arc_deg / 2))) : 0.33;
  const Wish wish{
      "stripe", {{"at", -(1 + label) / 2}, {"width", std::clamp(20.0 * (1 - label), 5.0, 10.0)}}, {}, {}};
  const auto lights = value_at(document, b.setup_path + "/lights");
  if (!lights || lights->empty()) return document;
  const auto alone = set(document, b.setup_path + "/lights", Json::array({lights->front()}));
  const auto found = alone ? grant_stripe({forecaster, *alone, shot, cancel}, wish) : Expected<Grants>(Grants{});
  if (!found) return document;
  Json left;
  const auto vector_of = [](const Json& p) {
    return Vec3{p[0].get<double>(), p[1].get<double>(), p[2].get<double>()};
  };
  for (const Grant& grant : found->list) {
    const auto solved = with_values(*alone, grant.changes);
    if (!solved) continue;
    const Json one = (*value_at(*solved, b.setup_path + "/lights"))[0];
    if (in_frame(b, vector_of(one["place"]), vector_of(one["aim"]), one["width"], one["height"])) continue;
    left = one;
    break;
  }
  if (left.is_null()) return document;
  Json all = *lights;
  all[0] = left;
  const Vec3 middle = product_at(project, b.shot, placed, 0.0).place, eye = camera_at(b.shot, 0.0).place - middle;
  const Vec3 toward = unit(Vec3{eye.x, 0, eye.z}), right{toward.z, 0, -toward.x};
  const auto across = [&](const Json& p) {
    const Vec3 at = vector_of(p) - middle;
    return point(middle + at - right * (2.0 * dot(at, right)));
  };
  for (std::size_t i = 1; i < std::min(strips, all.size()); ++i) {
    all[i]["place"] = across(left["place"]), all[i]["aim"] = across(left["aim"]);
    all[i]["width"] = left["width"], all[i]["height"] = left["height"];
  }
  return set(document, b.setup_path + "/lights", all).value_or(document);
}

}  // namespace cinnabar
