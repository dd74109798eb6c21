#include "cinnabar/forecast/methods/methods.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/forecast/moves/ready_moves.h"
#include "cinnabar/forecast/wishes/granting.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

std::vector<std::string> materials_of(const Product& product) {
  bool liquid = false, glass = false, metal = false, gloss = false, screen = false, fabric = false, matte = false;
  for (const Part& part : product.parts) {
    const Material& m = part.material;
    screen = screen || m.screen > 0.0;
    switch (m.kind) {
      case MaterialKind::liquid:
        liquid = true;
        break;
      case MaterialKind::glass:
      case MaterialKind::frosted:
        glass = true;
        break;
      case MaterialKind::metal:
      case MaterialKind::mirror:
        metal = true;
        break;
      case MaterialKind::gloss:
      case MaterialKind::satin:
        gloss = true;
        break;
      case MaterialKind::cloth:
        fabric = true;
        break;
      default:
        matte = true;
    }
  }
  std::vector<std::string> list;
  for (const auto& [is, word] : {std::pair{screen, "screen"},
                                 {liquid, "liquid"},
                                 {glass, "glass"},
                                 {gloss, "gloss"},
                                 {metal, "metal"},
                                 {fabric, "fabric"},
                                 {matte, "matte"}})
    if (is) list.emplace_back(word);
  if (list.empty()) list.emplace_back("matte");
  return list;
}

namespace {

/// Whether any part of a face lies in the frame at some moment of the shot.
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

/// What a method is built with: the shot, its measures, and lamps that are still free.
class Builder {
 public:
  Builder(const Bench& bench) : b_(bench) {
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
  }
  [[nodiscard]] int lamps() const { return static_cast<int>(free_.size()); }

  /// Bearings from the camera's, positive to its right; distances from the product's middle.
  [[nodiscard]] Vec3 around(double bearing, double elevation, double distance) const {
    const double a = radians(camera_ + bearing), e = radians(elevation);
    return middle_ + Vec3{std::cos(e) * std::sin(a), std::sin(e), std::cos(e) * std::cos(a)} * distance;
  }
  /// Drawn back from the product until the camera no longer sees it; where it was when that takes too far.
  [[nodiscard]] Vec3 clear_of_frame(const Vec3& place, const Vec3& aim, double width, double height) const {
    for (double k = 1.0; k < 3.5; k *= 1.07) {
      const Vec3 there = middle_ + (place - middle_) * k;
      if (!in_frame(b_, there, aim, width, height)) return there;
    }
    return place;
  }
  void light(const std::string& id, const std::string& name, const Vec3& at, const Vec3& aim, double width,
             double height, double dimmer, const std::string& meant_for, double grid = 0.0) {
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
  double window(double bearing, double elevation, double distance) {
    for (const Light& l : b_.setup->lights)
      if (l.window && l.on) {
        const Vec3 to = l.place - middle_;
        return std::remainder(degrees(std::atan2(to.x, to.z)) - camera_, 360.0);
      }
    Json one = plain_window({}, {}, std::max(0.6, 2.0 * size_));
    for (std::size_t l = 0; l < b_.setup->own_lights(); ++l)
      if (b_.setup->lights[l].daylight && b_.setup->lights[l].shape == LightShape::rectangle) {
        one = value_at(b_.doc, b_.light_path(l)).value_or(one);
        break;
      }
    one["aim"] = point(middle_);
    one["place"] =
        point(clear_of_frame(around(bearing, elevation, distance), middle_, one["width"], one["height"]));
    lights_.push_back(std::move(one));
    return bearing;
  }
  void card(const std::string& id, bool white, const Vec3& at, double width, double height) {
    const Vec3 place = clear_of_frame(at, middle_, width, height);
    cards_.push_back({{"id", id},
                      {"name", white ? said("White card") : said("Black card")},
                      {"place", point(place)},
                      {"aim", point(middle_)},
                      {"width", tidy(width)},
                      {"height", tidy(height)},
                      {"material", sheet_material(white ? "white" : "black")}});
  }
  void strip(const std::string& id, const std::string& name, double bearing, double distance, double grid = 0.0) {
    const double high = std::clamp(4 * tall_, 0.4, 1.4);
    // Upright: one that leans over has its foot away from what it is mirrored in.
    const Vec3 up{0, 0.3 * high, 0};
    light(id, name, around(bearing, 0, distance) + up, middle_ + up, std::min(0.38 * distance, high / 2.05), high,
          0.5, "product", grid);
  }
  /// False where there is none left to go without.
  bool without_last_card() {
    if (cards_.empty()) return false;
    cards_.erase(cards_.size() - 1);
    return true;
  }
  /// Half of what the camera sees across at the product, and a little.
  [[nodiscard]] double outside_frame() const {
    const CameraPose pose = camera_at(b_.shot, 0.0);
    return std::max(reach_ * 1.3, pose.depth(middle_) * b_.optics.sensor_width / 2 / pose.image_distance() + 0.01);
  }
  void backdrop_lamps(int most, double dimmer) {
    const double z = -b_.setup->backdrop.distance, y = middle_.y + 0.1;
    const double half = std::min(b_.setup->backdrop.width / 2, 2.2 * outside_frame());
    for (int k = 0; k < most && !free_.empty(); ++k) {
      const double side = k % 2 == 0 ? -1.0 : 1.0;
      light(fmt::format("ground-{}", k + 1), side < 0 ? said("Backdrop left") : said("Backdrop right"),
            {side * (half + 0.5), y + 0.3, z + 0.9}, {-side * 0.3 * half, y, z}, 0.4, 0.4, dimmer, "backdrop");
    }
  }

  void build(const std::string& id) {
    const double near = std::max(0.45, 3.5 * size_), soft = std::clamp(2.5 * size_, 0.25, 1.2);
    const double card_wide = std::clamp(1.5 * size_, 0.15, 0.8), card_tall = std::clamp(1.6 * tall_, 0.15, 1.0);
    if (id == "bright-field") {
      backdrop_lamps(std::min(2, lamps()), 0.7);
      for (const double side : {-1.0, 1.0}) {
        const Vec3 right = facing(middle_, around(180, 0, 1.0)).right;  // as the camera has it
        card(side < 0 ? "edge-left" : "edge-right", false,
             middle_ + right * (side * (outside_frame() + 0.3 * card_wide)), card_wide, card_tall);
      }
    } else if (id == "dark-field" || id == "rims") {
      strip("rim-left", said("Rim left"), -142, near * 1.3, 40);
      strip("rim-right", said("Rim right"), 142, near * 1.3, 40);
    } else if (id == "glow") {
      strip("side", said("Side"), -70, near * 1.2, 60);
      const double behind = reach_ + 0.03;
      light("glow", said("Glow"), around(180, 0, behind), around(0, 0, 1.0), 1.3 * reach_, 0.55 * tall_, 0.3,
            "product");
    } else if (id == "one-strip") {
      strip("strip", said("Strip"), -62, near * 1.2);
      card("fill", true, around(65, 0, std::max(0.25, 2.2 * size_)), card_wide, card_tall);
    } else if (id == "two-strips") {
      strip("strip-left", said("Strip left"), -78, near * 1.2);
      strip("strip-right", said("Strip right"), 78, near * 1.2);
    } else if (id == "wrap") {
      light("above", said("Above"), around(0, 80, near), middle_, 1.4 * soft, 1.4 * soft, 0.6, "product");
      for (const double side : {-1.0, 1.0})
        card(side < 0 ? "white-left" : "white-right", true, around(75 * side, 5, std::max(0.2, 2.0 * size_)),
             1.3 * card_wide, 1.3 * card_tall);
    } else if (id == "big-side") {
      light("large", said("Large face"), around(-50, 30, near), middle_, 1.3 * soft, 1.3 * soft, 0.6, "product");
      card("fill", true, around(70, 5, std::max(0.25, 2.2 * size_)), card_wide, card_tall);
    } else if (id == "raking") {
      light("rake", said("Rake"), around(-125, 22, near), middle_, 0.6 * soft, 0.6 * soft, 0.7, "product");
      card("front", true, around(50, 10, std::max(0.25, 2.0 * size_)), 1.2 * card_wide, 1.2 * card_tall);
    } else if (id == "white-ground") {
      const int ground = std::min(2, lamps() - 1);
      // The strongest lights the ground, which takes most.
      backdrop_lamps(ground, 0.8);
      light("key", said("Key"), around(-40, 35, near), middle_, soft, soft, 0.4, "product");
    } else if (id == "window-side") {
      const double from = window(-60, 12, std::max(1.1, 1.6 * near));
      card("fill", true, around(from < 0 ? 70 : -70, 5, std::max(0.25, 2.2 * size_)), card_wide, card_tall);
    } else if (id == "window-behind") {
      window(-145, 18, std::max(1.1, 1.6 * near));
      for (const double side : {-1.0, 1.0})
        card(side < 0 ? "white-left" : "white-right", true, around(65 * side, 8, std::max(0.2, 2.0 * size_)),
             card_wide, 1.2 * card_tall);
    } else if (id == "window-front") {
      const double from = window(-28, 15, std::max(1.3, 1.8 * near));
      card("fill", true, around(from < 0 ? 75 : -75, 5, std::max(0.25, 2.4 * size_)), card_wide, card_tall);
    } else if (id == "low-screen") {
      light("aside", said("Aside"), around(-95, 20, near * 1.4), middle_, 1.2 * soft, 1.2 * soft, 0.1, "product");
    }
  }
  /// The document with what was built in the set-up's place; the backdrop black or white where the rule asks for
  /// it. Lights that tracks and needs of the set-up's shots name hand their names on, so that what moves goes on
  /// moving: nothing where there are more of them than the method has lights.
  [[nodiscard]] Maybe set_up(const Method& method) const {
    Json lights = lights_;
    const auto named = lights_named();
    if (named.size() > lights.size()) return std::nullopt;
    for (std::size_t l = 0; l < named.size(); ++l) {
      if (lights[l].value("daylight", false) && lights[l]["id"] != named[l])
        return std::nullopt;  // nobody moves it
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
  /// Ids of lights that shots of this set-up ask for by name.
  [[nodiscard]] std::vector<std::string> lights_named() const {
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

 private:
  static double tidy(double x) { return std::round(x * 1e3) / 1e3; }
  const Bench& b_;
  double reach_ = 0, tall_ = 0, size_ = 0, camera_ = 0;
  Vec3 middle_;
  std::vector<const LightKit*> free_;
  Json lights_ = Json::array(), cards_ = Json::array();
};

/// The first strip carried to where its image lies beside the label and is as wide as it should be, the second to
/// the same place across the camera's axis. As it was where no place does.
Document with_stripes(const Forecaster& forecaster, const Document& document, std::size_t shot,
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
  for (std::size_t i = 1; i < all.size(); ++i)
    if (all[i].value("name", "") == said("Strip right")) {
      const auto across = [&](const Json& p) {
        const Vec3 at = vector_of(p) - middle;
        return point(middle + at - right * (2.0 * dot(at, right)));
      };
      all[i]["place"] = across(left["place"]), all[i]["aim"] = across(left["aim"]);
      all[i]["width"] = left["width"], all[i]["height"] = left["height"];
    }
  return set(document, b.setup_path + "/lights", all).value_or(document);
}

std::vector<Level> of_method(const Method& method, const std::vector<Level>& levels) {
  std::vector<Level> list;
  for (const Level& level : levels)
    if (level.id == "frame.gear" ||  // of any
        std::find(method.levels.begin(), method.levels.end(), level.id) != method.levels.end())
      list.push_back(level);
  return list;
}

/// All dimmers of the shot's set-up times a factor, none over full.
Maybe dimmed(const Document& document, std::size_t shot, double factor) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Bench b(document, project, shot);
  Maybe next(document);
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l)
    if (!b.setup->lights[l].daylight)
      next = set(next, b.light_path(l) + "/dimmer",
                 std::round(1e3 * std::clamp(b.setup->lights[l].dimmer * factor, 0.01, 1.0)) / 1e3);
  return next;
}

/// How badly what a method is made for stands: by states, and within them by how far outside its band.
double standing(const Method& method, const std::vector<Level>& all) {
  double sum = 0.0;
  for (const Level& level : of_method(method, all)) {
    sum += level.state == State::unknown ? 3.0 : weight_of(level.state);
    if (level.value && width_of(level.band) > 0.0)
      sum += 0.1 * std::clamp(badness(*level.value, level.band) / width_of(level.band), 0.0, 12.0);
  }
  return sum;
}

/// Its lamps turned up and down against one another, one at a time, the shot exposed anew: light is mixed anew,
/// without rays. Ever the step after which the method's levels stand best.
void balance(const Forecaster& forecaster, const Method& method, Document& document, std::size_t shot,
             std::vector<Level>& levels, const std::atomic<bool>* cancel) {
  constexpr int most_steps = 8;
  for (int step = 0; step < most_steps && standing(method, levels) >= 1.0; ++step) {
    ProjectReader reader;
    const Project project = reader.read(document);
    const Bench b(document, project, shot);
    double best = standing(method, levels) - 0.02;
    std::optional<std::pair<Document, std::vector<Level>>> next;
    for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
      const Light& light = b.setup->lights[l];
      if (!light.on || light.daylight || b.shot.track(Tracked::light_dimmer, light.id)) continue;
      for (const double stops : {-3.0, -1.5, -0.5, 0.5, 1.5, 3.0}) {
        if (cancel && cancel->load()) return;
        const double dimmer = std::round(1e3 * std::clamp(light.dimmer * std::exp2(stops), 0.002, 1.0)) / 1e3;
        auto tried = set(document, b.light_path(l) + "/dimmer", dimmer);
        if (dimmer == light.dimmer || !tried) continue;
        auto then = forecaster.levels(reader.read(*tried), shot, {}, cancel);
        settle_exposure(forecaster, *tried, shot, then);
        if (const double off = standing(method, then); off < best)
          best = off, next.emplace(*std::move(tried), std::move(then));
      }
    }
    if (!next) return;
    document = std::move(next->first), levels = std::move(next->second);
  }
}

/// Exposed, and what it is made for brought home by the levers that do no harm.
MethodStanding settled(const Forecaster& forecaster, const Method& method, Document document, std::size_t shot,
                       const std::atomic<bool>* cancel) {
  const auto levels_of = [&](const Document& d) {
    ProjectReader reader;
    return forecaster.levels(reader.read(d), shot, {}, cancel);
  };
  auto levels = levels_of(document);
  for (const Level& level : levels)
    if (level.id == "light.product" && level.value && std::abs(*level.value) > 0.2)
      if (const auto next = dimmed(document, shot, std::exp2(-*level.value))) {
        document = *next, levels = levels_of(document);
        break;
      }
  settle_exposure(forecaster, document, shot, levels);
  balance(forecaster, method, document, shot, levels, cancel);
  // Of all levers of what is off, ever the one after which the method's own levels stand best.
  constexpr int most_levers = 5;
  const auto weight = [&](const std::vector<Level>& all) { return standing(method, all); };
  for (int pulled = 0; pulled < most_levers && weight(levels) >= 1.0; ++pulled) {
    double best = weight(levels) - 0.02;
    std::optional<std::pair<Document, std::vector<Level>>> next;
    for (const Level& level : of_method(method, levels)) {
      if (level.state != State::out || (cancel && cancel->load())) continue;
      for (const Lever& lever :
           forecaster.levers(document, shot, level.id, cancel, {.known = levels, .together = false}).list) {
        if (lever.not_owned) continue;
        Document then = applied(document, lever.edit);
        auto stand = levels_of(then);
        settle_exposure(forecaster, then, shot, stand);
        if (weight(stand) < best) best = weight(stand), next.emplace(std::move(then), std::move(stand));
      }
    }
    if (!next) break;
    document = std::move(next->first), levels = std::move(next->second);
  }
  return {&method, document, of_method(method, levels)};
}

}  // namespace

Expected<std::vector<MethodStanding>> methods_for(const Forecaster& forecaster, const Document& document,
                                                  std::size_t shot, const std::string& name,
                                                  const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Bench bench(document, project, shot);
  const std::string place = fmt::format("shot {}", shot + 1);
  if (!bench.setup) return fail(place, "has no set-up", "give it one");
  if (!bench.shot.camera || bench.shot.products.empty())
    return fail(place, "has no camera or no product", "give it both");
  const Product* product = by_id(project.products, bench.shot.products.front().product);
  if (!product) return fail(place, "shows a product that is not there", "choose one of the project's");
  const auto made_of = materials_of(*product);
  const auto rule = project.rule<BackdropRule>(bench.shot);
  const int lamps = Builder(bench).lamps();
  std::vector<const Method*> suit;
  if (!name.empty()) {
    std::string all;
    for (const Method& m : methods()) {
      if (m.id == name) suit.push_back(&m);
      all += (all.empty() ? "" : ", ") + m.id;
    }
    if (suit.empty()) return fail("--name " + name, "is no method", "give one of " + all);
    if (suit.front()->lamps > lamps)
      return fail("--name " + name, fmt::format("needs {} lights, and {} are owned", suit.front()->lamps, lamps),
                  "add them to the kit");
  } else {
    // By the product's most telling material first; those for the house rule before those for any.
    const auto rank = [&](const Method& m) {
      std::size_t best = made_of.size();
      for (std::size_t i = made_of.size(); i-- > 0;)
        if (std::find(m.materials.begin(), m.materials.end(), made_of[i]) != m.materials.end()) best = i;
      return std::pair{best, m.rule == rule ? 0 : 1};
    };
    const bool daylight = lamps == 0 || project.rule<AmbientRule>(bench.shot) == AmbientRule::window;
    const auto can_be = [&](const Method& m) { return m.lamps == 0 ? daylight : m.lamps <= lamps; };
    for (const Method& m : methods())
      if (can_be(m) && (!m.rule || m.rule == rule) && rank(m).first < made_of.size()) suit.push_back(&m);
    std::stable_sort(suit.begin(), suit.end(),
                     [&](const Method* a, const Method* b) { return rank(*a) < rank(*b); });
    if (suit.size() > 3) suit.resize(3);
    for (const Method& m : methods())  // something for everything
      if (suit.size() < 2 && !m.rule && can_be(m) && std::find(suit.begin(), suit.end(), &m) == suit.end() &&
          (m.id == "big-side" || m.id == "one-strip" || m.id == "window-side" || m.id == "window-front"))
        suit.push_back(&m);
  }
  std::vector<MethodStanding> out;
  for (const Method* method : suit) {
    if (cancel && cancel->load()) break;
    Builder builder(bench);
    builder.build(method->id);
    auto built = builder.set_up(*method);
    // What a card is held by serves a lamp first.
    const auto whole = built;
    for (bool left = true; left && built && !newly_short(project, reader.read(*built)).empty();) {
      left = builder.without_last_card();
      built = left ? builder.set_up(*method) : whole;
    }
    if (!built && !name.empty())
      return fail("--name " + name,
                  fmt::format("has fewer lights than the {} that move or peak in shots of this set-up",
                              builder.lights_named().size()),
                  "take those tracks away first");
    if (!built || !validate(*built).empty()) continue;
    const bool striped =
        std::find(method->levels.begin(), method->levels.end(), "light.stripe") != method->levels.end();
    out.push_back(settled(forecaster, *method, striped ? with_stripes(forecaster, *built, shot, cancel) : *built,
                          shot, cancel));
  }
  return out;
}

}  // namespace cinnabar
