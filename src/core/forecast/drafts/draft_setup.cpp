#include "cinnabar/forecast/drafts/draft_setup.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/moods.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/forecast/moves/ready_moves.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

constexpr double no_wash = -9.0;

double product_size(const Project& p) {
  if (p.products.empty() || p.products.front()->parts.empty()) return 0.1;
  const auto [low, high] = height_span(*p.products.front());
  return std::max({high - low, 2.0 * widest_reach(*p.products.front()), 0.02});
}
double product_height(const Project& p) {
  if (p.products.empty() || p.products.front()->parts.empty()) return 0.1;
  const auto [low, high] = height_span(*p.products.front());
  return high - low;
}

Vec3 around(double bearing_deg, double elevation_deg, double distance, double height) {
  const double b = radians(bearing_deg), e = radians(elevation_deg);
  return {distance * std::cos(e) * std::sin(b), height + distance * std::sin(e),
          distance * std::cos(e) * std::cos(b)};
}

Json grey(double tone) { return {{"kind", "matte"}, {"colour", {tone, tone, tone}}}; }
/// Paper of that reflectance in a colour of the mood. Common practice, no source.
Json paper(double tone, const std::string& mood) {
  const Mood* known = mood_named(mood);
  const Vec3 hue = known ? known->paper : Vec3{1, 1, 1};
  const double most = std::max({hue.x, hue.y, hue.z}) * tone;
  // A very light paper has less of the colour, so that no band reflects more than paper can.
  const double part = most > 0.88 ? std::max(0.0, (0.88 - tone) / (most - tone)) : 1.0;
  const auto band = [&](double h) { return std::round(1e3 * tone * (1.0 + part * (h - 1.0))) / 1e3; };
  return {{"kind", "matte"}, {"colour", {band(hue.x), band(hue.y), band(hue.z)}}};
}
double tone_of(const Material& m) { return (m.colour.x + m.colour.y + m.colour.z) / 3; }

/// How high the kit's stands hold a head; without any, as high as is wanted.
double highest_head(const Project& p) {
  double most = 0;
  bool any = false;
  for (const auto& s : p.supports)
    if (s->holding.owned && s->kind == SupportKind::stand)
      any = true, most = std::max(most, s->reach.value_or(1e4));
  return any ? most : 1e4;
}

/// The sheet of a kit list that comes nearest to a tone; nothing where none is owned.
const CardStock* nearest_tone(const std::vector<std::shared_ptr<const CardStock>>& list, double tone) {
  const CardStock* best = nullptr;
  for (const auto& sheet : list)
    if (sheet->holding.owned &&
        (!best || std::abs(tone_of(sheet->material) - tone) < std::abs(tone_of(best->material) - tone)))
      best = sheet.get();
  return best;
}

class SetBuilder {
 public:
  SetBuilder(const SetPlan& plan, const Project& project)
      : plan_(plan), p_(project), size_(product_size(project)), middle_(0.5 * product_height(project)) {}

  Json build(const std::string& id) {
    out_ = {{"id", id}, {"name", "First set-up"}, {"house_rules", {{"backdrop", rule_name(plan_.backdrop_rule)}}}};
    sheets();
    out_["ambient"] = {{"illuminance_lx", 0.0}, {"kelvin", 5600}};
    out_["lights"] = Json::array(), out_["cards"] = Json::array();
    free_ = owned_lamps(p_);
    if (free_.empty())
      daylight();
    else
      lamps_placed();
    if (plan_.fill > 0) card();
    return std::move(out_);
  }

 private:
  void sheets() {
    const double wide = std::max(1.2, 8.0 * size_), deep = std::max(0.8, 5.0 * size_);
    Json surface{{"width", wide}, {"depth", deep}, {"material", grey(std::max(0.0, plan_.surface_tone))}};
    if (const auto* own = plan_.surface_tone < 0 ? nullptr : nearest_tone(p_.surface_stock, plan_.surface_tone)) {
      surface = {{"width", own->width}, {"depth", own->height}, {"kit", own->id}};
      surface["material"] = material_json(own->material);
    }
    Json backdrop{{"kind", "sweep"},
                  {"distance", plan_.backdrop_distance},
                  {"width", std::max(2.7, 8.0 * size_)},
                  {"height", std::max(1.9, 6.0 * size_)},
                  {"low", 0.0},
                  {"radius", std::min(0.4, 0.4 * plan_.backdrop_distance)},
                  {"material", paper(plan_.backdrop_tone, p_.mood)}};
    if (const auto* own = nearest_tone(p_.backdrop_stock, plan_.backdrop_tone)) {
      backdrop["width"] = own->width, backdrop["height"] = own->height, backdrop["kit"] = own->id;
      backdrop["material"] = material_json(own->material);
    }
    if (plan_.surface_tone < 0) {  // the roll runs on under the product: no edge between the two
      surface["material"] = backdrop["material"], surface["width"] = backdrop["width"];
      surface["depth"] = 2.0 * (plan_.backdrop_distance - backdrop["radius"].get<double>()) + 0.02;
    }
    out_["surface"] = std::move(surface), out_["backdrop"] = std::move(backdrop);
  }

  /// The next lamp, of those left: the strongest, or the weakest.
  const LightKit* take(bool strongest) {
    if (free_.empty()) return nullptr;
    const auto at = strongest ? free_.begin() : free_.end() - 1;
    const LightKit* kit = *at;
    free_.erase(at);
    return kit;
  }
  Json lamp(const char* id, const char* name, const LightKit& kit, const Vec3& wanted, const Vec3& to,
            double width, double height) const {
    const Vec3 at{wanted.x, std::min(wanted.y, highest_head(p_)), wanted.z};
    Json light{{"id", id}, {"name", name}, {"kit", kit.id}, {"place", point(at)}, {"aim", point(to)}};
    light["kelvin"] = std::clamp(5600.0, kit.kelvin_low, kit.kelvin_high);
    if (width <= 0) {
      light["shape"] = "disc", light["radius"] = 0.05;
      return light;
    }
    light["shape"] = "rectangle", light["width"] = width, light["height"] = height;
    light["transmittance"] = 0.6;  // of cloth or paper hung before it
    const Modifier* own = nullptr;
    const double area = width * height;
    const auto away = [&](const Modifier& m) {
      return std::abs(std::log(m.width * m.height / area)) +
             2.0 * std::abs(std::log((m.height / m.width) / (height / width)));
    };
    for (const auto& m : p_.modifiers)
      if (m->holding.owned && m->shape == LightShape::rectangle && m->width * m->height > 0 && away(*m) < 1.7 &&
          (!own || away(*m) < away(*own)))
        own = m.get();
    if (own) put_face(light, *own);
    return light;
  }
  void lamps_placed() {
    const Vec3 hero{0, middle_, 0};
    const double reach = std::max(plan_.key_distance, 2.2 * size_);
    const LightKit* main = take(true);
    Json key = lamp("key", "Key", *main, around(plan_.key_bearing_deg, plan_.key_elevation_deg, reach, middle_),
                    hero, plan_.key_face, 1.3 * plan_.key_face);
    key["meant_for"] = "product";
    if (plan_.key_stops < 0) key["dimmer"] = std::round(1e3 * std::pow(2.0, plan_.key_stops)) / 1e3;
    out_["lights"].push_back(std::move(key));
    if (plan_.wash_stops > no_wash)
      if (const LightKit* kit = take(true)) {
        const double d = plan_.backdrop_distance, up = std::max(0.5, 2.0 * size_);
        Json wash = lamp("wash", "Wash", *kit, {-0.75 * std::max(0.8, d), up + 0.5, -0.35 * d}, {0, 0.6 * up, -d},
                         0.4, 0.4);
        wash["dimmer"] = std::pow(2.0, std::min(0.0, plan_.wash_stops));
        wash["meant_for"] = "backdrop";
        out_["lights"].push_back(std::move(wash));
      }
    if (plan_.stripe > 0)
      if (const LightKit* kit = take(false)) {
        const double side = plan_.key_bearing_deg > 0 ? -1 : 1;
        Json strip = lamp("stripe", "Stripe", *kit, around(side * 115, 12, std::max(0.75, 3.0 * size_), middle_),
                          hero, 0.3, std::max(0.9, 3.0 * size_));
        strip["meant_for"] = "product", strip["dimmer"] = plan_.stripe;
        out_["lights"].push_back(std::move(strip));
      }
  }
  /// A window beside the table, and what the room throws back. A curtain leaves as much of it as is wanted.
  void daylight() {
    const Vec3 at = around(plan_.key_bearing_deg, 25, std::max(1.1, plan_.key_distance + 0.3), middle_);
    out_["lights"].push_back(plain_window(at, {0, at.y - 0.2, 0}, std::max(0.1, plan_.key_face)));
    out_["ambient"] = beside_a_window;
    out_["house_rules"]["ambient"] = "window";
  }
  void card() {
    const double side = plan_.key_bearing_deg > 0 ? -1 : 1, d = std::max(plan_.fill, 1.2 * size_);
    Json board{{"id", "fill"},
               {"name", "White card"},
               {"width", std::max(0.3, 2.5 * size_)},
               {"height", std::max(0.4, 2.5 * size_)},
               {"material", grey(0.85)}};
    for (const auto& own : p_.card_stock)
      if (own->holding.owned && tone_of(own->material) > 0.6 && own->material.kind == MaterialKind::matte) {
        board["kit"] = own->id, board["width"] = own->width, board["height"] = own->height;
        break;
      }
    Vec3 at = around(side * 60, 8, d, middle_);
    at.y = std::min(at.y, highest_head(p_));
    board["place"] = point(at), board["aim"] = point({0, middle_, 0});
    out_["cards"].push_back(std::move(board));
  }

  const SetPlan& plan_;
  const Project& p_;
  double size_, middle_;
  Json out_;
  std::vector<const LightKit*> free_;
};

/// The values that each thing of a plan is tried at, in the order in which they matter.
struct Turn {
  double SetPlan::*what;
  std::vector<double> values;
};
std::vector<Turn> turns(const Project& p) {
  std::vector<Turn> list;
  const bool lamps_there = !owned_lamps(p).empty();
  if (owned_lamps(p).size() > 1) list.push_back({&SetPlan::wash_stops, {no_wash - 1, 0, -1.5, -3, -4.5}});
  if (owned_lamps(p).size() > 1) list.push_back({&SetPlan::key_stops, {0, -1.5, -3, -4.5}});
  list.push_back({&SetPlan::backdrop_tone, {0.02, 0.06, 0.12, 0.25, 0.45, 0.7, 0.85}});
  list.push_back({&SetPlan::fill, {0, 0.3, 0.45, 0.7}});
  if (lamps_there) list.push_back({&SetPlan::key_bearing_deg, {-60, -40, 30, 45, 60, 75}});
  if (!lamps_there) list.push_back({&SetPlan::key_bearing_deg, {-75, -50, 35, 50, 75}});
  list.push_back({&SetPlan::key_face, lamps_there ? std::vector<double>{0, 0.15, 0.25, 0.5, 0.8}
                                                  : std::vector<double>{0.12, 0.25, 0.5, 0.8, 1.2}});
  list.push_back({&SetPlan::backdrop_distance, {0.7, 1.0, 1.4, 1.9, 2.4}});
  if (lamps_there) list.push_back({&SetPlan::key_elevation_deg, {15, 30, 45, 60}});
  list.push_back({&SetPlan::key_distance, {0.55, 0.8, 1.2, 1.7}});
  if (owned_lamps(p).size() > 1) list.push_back({&SetPlan::stripe, {0, 0.15, 0.5}});
  list.push_back({&SetPlan::surface_tone, {-1, 0.05, 0.2, 0.5}});
  return list;
}

/// Light on the product and behind it, by a close shot; what depends on its own movement or focus is left aside.
double plan_cost(const Forecaster& forecaster, const Document& document, const Project& project,
                 const SetPlan& plan, const std::atomic<bool>* cancel) {
  Document tried = document;
  tried.lists["setups"] = {std::make_shared<const Json>(setup_of(plan, project, "A"))};
  auto made = with_move(forecaster, tried, "hero-words", 0, {.levelling = false, .setup = "A"}, cancel);
  if (!made) return 1e9;
  std::erase_if(made->levels, [](const Level& l) {
    return !l.id.starts_with("light.") && l.id != "camera.stops" && l.id != "camera.iso" &&
           l.id != "focus.hides-edge" && l.id != "frame.backdrop-edge" && l.id != "frame.copy-space";
  });
  ProjectReader reader;
  const Project then = reader.read(made->document);
  return draft_cost(made->levels) + 20.0 * static_cast<double>(shortages(then, packing(then)).size());
}

}  // namespace

SetPlan first_plan(const Project& p) {
  SetPlan plan;
  plan.key_distance = std::max(0.8, 3.0 * product_size(p));
  if (owned_lamps(p).empty()) plan.key_face = 0.8, plan.key_bearing_deg = 50;
  const bool several = owned_lamps(p).size() > 1;
  if (p.mood == "dramatic") {
    plan.backdrop_rule = BackdropRule::black, plan.backdrop_tone = 0.02, plan.surface_tone = 0.05;
    plan.key_bearing_deg = 65, plan.key_face = 0.3, plan.fill = 0.7;
  } else if (p.mood == "crisp") {
    plan.backdrop_rule = several ? BackdropRule::white : BackdropRule::colour, plan.backdrop_tone = 0.7,
    plan.surface_tone = 0.5;
    plan.key_face = 0, plan.backdrop_distance = 1.0, plan.wash_stops = -1.5;
  } else {
    plan.backdrop_rule = BackdropRule::colour, plan.backdrop_tone = 0.25;
    if (p.mood == "gentle") plan.key_face = 0.8, plan.fill = 0.4;
  }
  if (!several || plan.backdrop_rule == BackdropRule::black) plan.wash_stops = no_wash - 1;
  return plan;
}

Json setup_of(const SetPlan& plan, const Project& project, const std::string& id) {
  return SetBuilder(plan, project).build(id);
}

double draft_cost(const std::vector<Level>& levels) {
  double cost = 0;
  for (const Level& l : levels) {
    if (l.state == State::level) continue;
    cost += l.state == State::unknown ? 2.0 : weight_of(l.state);
    if (!l.value || l.state == State::unknown) continue;
    const double width = l.band.low && l.band.high ? *l.band.high - *l.band.low
                                                   : std::abs(l.band.low.value_or(l.band.high.value_or(1.0)));
    cost += 0.4 * std::min(2.0, std::max(0.0, badness(*l.value, l.band)) / std::max(0.05, width));
  }
  return cost;
}

std::optional<Document> with_draft_setup(const Forecaster& forecaster, const Document& document,
                                         const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  SetPlan best = first_plan(project);
  const auto stopped = [&] { return cancel && cancel->load(); };
  double least = plan_cost(forecaster, document, project, best, cancel);
  for (int round = 0; round < 2; ++round) {
    const double before = least;
    for (const Turn& turn : turns(project)) {
      const double was = best.*turn.what;
      for (const double value : turn.values) {
        if (stopped()) return std::nullopt;
        if (value == was || least < 0.05) continue;
        SetPlan tried = best;
        tried.*turn.what = value;
        const double cost = plan_cost(forecaster, document, project, tried, cancel);
        if (cost < least - 1e-9) least = cost, best = tried;
      }
    }
    // What the mood would have behind the product may be out of reach of these lamps: another ground is better
    // than one that stands out.
    if (round == 0)
      for (const auto rule :
           {BackdropRule::colour, BackdropRule::black, BackdropRule::gradient, BackdropRule::white}) {
        if (stopped()) return std::nullopt;
        if (best.backdrop_rule == rule || least < 1.5) continue;
        SetPlan tried = best;
        tried.backdrop_rule = rule;
        const double cost = plan_cost(forecaster, document, project, tried, cancel) + 1.0;
        if (cost < least - 1e-9) least = cost, best = tried;
      }
    if (least > before - 0.2) break;
  }
  if (stopped()) return std::nullopt;
  Document next = document;
  next.lists["setups"] = {std::make_shared<const Json>(setup_of(best, project, "A"))};
  return next;
}

}  // namespace cinnabar
