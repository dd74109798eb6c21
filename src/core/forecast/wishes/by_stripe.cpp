// The wish for a stripe in what is glossy: where a strip has to stand, and how wide it has to be.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/measures/strip_image.h"
#include "cinnabar/forecast/wishes/granting.h"
#include "cinnabar/forecast/wishes/wish_stage.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

/// The first product of the shot that mirrors upright.
struct Glossy {
  const ShotProduct* placed;
  Straight side;
  ProductPose pose;
  double height;  ///< middle of the side, in the world
};
std::optional<Glossy> glossy_of(const WishStage& s) {
  for (const ShotProduct& placed : s.shot.products)
    if (const Product* product = by_id(s.project.products, placed.product))
      if (const auto side = widest_straight(*product)) {
        const ProductPose pose = product_at(s.project, s.shot, placed, 0.0);
        return Glossy{&placed, *side, pose, pose.place.y + (side->low + side->high) / 2};
      }
  return std::nullopt;
}

/// A strip carried round the product to a bearing and a distance: upright, since one that leans over to the
/// product has its foot away from it, where lines of sight that look down are thrown; else aimed at the product's
/// side.
Light carried(const Light& was, const Glossy& g, double bearing, double distance, bool upright) {
  Light l = was;
  l.place = g.pose.place +
            Vec3{distance * std::sin(bearing), was.place.y - g.pose.place.y, distance * std::cos(bearing)};
  l.aim = {g.pose.place.x, upright ? l.place.y : g.height, g.pose.place.z};
  if (upright) l.roll_deg = 0;
  return l;
}

/// A strip tried about a glossy side: where its image lies across it and how wide it is, of the side's width.
class StripeSearch {
 public:
  StripeSearch(const WishStage& stage, const Glossy& glossy, const Wish& wish, std::size_t light)
      : s_(stage),
        g_(glossy),
        at_(wish.numbers.at("at")),
        width_(wish.numbers.at("width")),
        light_(light),
        strip_(stage.setup->lights[light]),
        setup_(*stage.setup) {
    const Vec3 eye = camera_at(s_.shot, 0.0).place - g_.pose.place;
    camera_ = std::atan2(eye.x, eye.z);
  }

  [[nodiscard]] bool fits(const StripImage& image) const {
    return std::abs(middle(image) - at_) < 0.04 && std::abs(image.width_percent - width_) < 0.1 * width_ + 0.3;
  }
  [[nodiscard]] std::optional<StripImage> now() { return seen(strip_); }
  /// Every way that is found, into the grants; what is nearest to the width, too.
  void look(Grants& out, const std::atomic<bool>* cancel) {
    for (const bool upright : {true, false}) {
      upright_ = upright;
      look_so(out, cancel);
      if (!out.list.empty() || (cancel && cancel->load())) return;
    }
  }

 private:
  void look_so(Grants& out, const std::atomic<bool>* cancel) {
    found_.clear();
    for (const double distance : {0.22, 0.3, 0.4, 0.5, 0.65, 0.8, 1.0, 1.25, 1.6, 2.0, 2.5}) {
      if (cancel && cancel->load()) return;
      if (auto there = placed(strip_, distance)) found_.emplace_back(distance, *std::move(there));
    }
    by_distance(out);
    by_face(out);
  }

  using Placed = std::pair<Light, StripImage>;
  static double middle(const StripImage& image) { return 0.5 * (image.left + image.right); }
  [[nodiscard]] double off(const Placed& p) const { return std::abs(p.second.width_percent - width_); }

  [[nodiscard]] std::optional<StripImage> seen(const Light& light) {
    setup_.lights[light_] = light;
    auto image = strip_image(s_.project, s_.shot, setup_, *g_.placed, g_.side, 0.0);
    return image && image->light == light_ ? image : std::nullopt;
  }

  /// The bearing at which the image's middle lies where it is wanted: between two that straddle it, by halving.
  [[nodiscard]] std::optional<Placed> placed(const Light& light, double distance) {
    bool had = false;
    double last = 0, was_off = 0;  // bearing, and how far off the middle was
    for (int step = -84; step <= 84; ++step) {
      const double bearing = camera_ + radians(2.0 * step);
      const auto image = seen(carried(light, g_, bearing, distance, upright_));
      if (!image) {
        had = false;
        continue;
      }
      const double off_middle = middle(*image) - at_;
      if (had && (off_middle < 0) != (was_off < 0))
        if (auto there = halved(light, distance, last, bearing, was_off < 0)) return there;
      had = true, last = bearing, was_off = off_middle;
    }
    return std::nullopt;
  }
  [[nodiscard]] std::optional<Placed> halved(const Light& light, double distance, double low, double high,
                                             bool low_is_under) {
    for (int k = 0; k < 12; ++k) {
      const double mid = 0.5 * (low + high);
      const auto between = seen(carried(light, g_, mid, distance, upright_));
      if (!between) return std::nullopt;
      ((middle(*between) - at_ < 0) == low_is_under ? low : high) = mid;
    }
    const Light there = carried(light, g_, 0.5 * (low + high), distance, upright_);
    const auto image = seen(there);
    return image ? std::optional(Placed{there, *image}) : std::nullopt;
  }

  /// The farther, the narrower: where it may stand without anything between, then between two that straddle.
  void by_distance(Grants& out) {
    const Placed* best = nullptr;
    for (const auto& [distance, there] : found_)
      if (!best || off(there) < off(*best)) best = &there;
    std::optional<Placed> closer;
    for (std::size_t i = 1; best && !fits(best->second) && i < found_.size(); ++i) {
      double near = found_[i - 1].first, far = found_[i].first;
      if (found_[i - 1].second.second.width_percent < width_ || found_[i].second.second.width_percent > width_)
        continue;
      for (int k = 0; k < 7; ++k) {
        const double distance = 0.5 * (near + far);
        const auto there = placed(strip_, distance);
        if (!there) break;
        if (!closer || off(*there) < off(*closer)) closer = there;
        (there->second.width_percent > width_ ? near : far) = distance;
      }
    }
    if (closer && (!best || off(*closer) < off(*best))) best = &*closer;
    if (!best) return;
    const Vec3 to = best->first.place - g_.pose.place;
    offer(out, *best, false,
          said("Carry {} to {} from the product, {}", name_or(strip_.name, strip_.id),
               s_.len(std::hypot(to.x, to.z)), told_bearing(best->first)));
  }

  /// Taped narrower, as far away as it may stand and is too wide.
  void by_face(Grants& out) {
    const auto wide = std::find_if(found_.rbegin(), found_.rend(),
                                   [&](const auto& f) { return f.second.second.width_percent > width_; });
    if (wide == found_.rend() || strip_.shape != LightShape::rectangle) return;
    double low = 0.01, high = strip_.width;
    std::optional<Placed> narrow;
    for (int k = 0; k < 8; ++k) {
      Light thin = strip_;
      thin.width = 0.5 * (low + high);
      const auto then = placed(thin, wide->first);
      if (!then) break;
      if (!narrow || off(*then) < off(*narrow)) narrow = then;
      (then->second.width_percent > width_ ? high : low) = thin.width;
    }
    if (narrow)
      offer(out, *narrow, true,
            said("Tape {} to {} wide and stand it {} from the product, {}", name_or(strip_.name, strip_.id),
                 s_.len(narrow->first.width), s_.len(wide->first), told_bearing(narrow->first)));
  }

  void offer(Grants& out, const Placed& there, bool narrowed, const std::string& how) const {
    out.short_of = std::min(out.short_of, off(there));
    if (!fits(there.second)) return;
    const Light& light = there.first;
    const std::string p = fmt::format("{}/lights/{}", s_.setup_path, light_);
    Values changes{{p + "/place", point(light.place)}, {p + "/aim", point(light.aim)}};
    if (light.roll_deg != s_.setup->lights[light_].roll_deg) changes.emplace_back(p + "/roll_deg", light.roll_deg);
    if (narrowed) changes.emplace_back(p + "/width", std::round(light.width * 1e4) / 1e4);
    out.list.push_back({how, std::move(changes), there.second.width_percent, true});
  }
  [[nodiscard]] std::string told_bearing(const Light& light) const {
    const Vec3 to = light.place - g_.pose.place;
    const double bearing = std::remainder(degrees(std::atan2(to.x, to.z) - camera_), 360.0);
    return said("{} degrees to the {} of the camera", fixed_text(std::abs(bearing), 0),
                bearing < 0 ? "left" : "right");
  }

  const WishStage& s_;
  const Glossy& g_;
  double at_, width_, camera_ = 0;
  bool upright_ = true;
  std::size_t light_;
  const Light& strip_;
  Setup setup_;  ///< with the strip as it is tried
  std::vector<std::pair<double, Placed>> found_;
};

/// With what stands about left where it is.
Expected<Grants> stripe_among(const WishBench& b, const Wish& w) {
  const WishStage s(b.document, b.shot);
  if (!s.setup || !s.shot.camera) return fail("stripe", "has no set-up or camera", "give the shot both");
  const auto g = glossy_of(s);
  if (!g) return fail("stripe", "nothing upright and glossy is in the shot", "it shows in gloss, metal and glass");
  Grants out;
  out.short_of = unbounded;
  bool any = false;
  for (std::size_t l = 0; l < s.setup->own_lights(); ++l) {
    if (!is_strip(s.setup->lights[l])) continue;
    any = true;
    StripeSearch search(s, *g, w, l);
    if (const auto image = search.now(); image && search.fits(*image)) {
      out.list.push_back({said("It is so already"), {}, image->width_percent, true});
      return out;
    }
    if (!b.look_only) search.look(out, b.cancel);
    if (b.cancel && b.cancel->load()) return out;
  }
  const double width = w.numbers.at("width");
  if (!std::isfinite(out.short_of)) out.short_of = width;
  if (!any)
    out.why = said("no strip shines in this set-up: set up a rectangle or tube twice as tall as wide");
  else if (out.list.empty())
    out.why = said(
        "no place of a strip puts an image {} % wide there: what stands about is in its way, or the rim is too "
        "steep",
        number_text(width, 3));
  return out;
}

/// The tallest front of the kit that is free and makes a strip; nothing where there is none.
const Modifier* strip_front(const WishStage& s) {
  const Modifier* tallest = nullptr;
  for (const auto& m : s.project.modifiers) {
    const auto used = std::count_if(s.setup->lights.begin(), s.setup->lights.end(),
                                    [&](const Light& l) { return l.modifier == m->id; });
    if (m->holding.owned && static_cast<double>(used) < m->holding.count && m->shape == LightShape::rectangle &&
        m->width > 0.0 && m->height >= 2 * m->width && (!tallest || m->height > tallest->height))
      tallest = m.get();
  }
  return tallest;
}

/// With one lamp more of the kit, the strongest that is free.
void stripe_with_another(const WishBench& b, const Wish& w, Grants& out) {
  const WishStage s(b.document, b.shot);
  const auto spare = spare_lamps(s);
  const auto glossy = glossy_of(s);
  const auto lamp =
      std::find_if(spare.begin(), spare.end(), [](const LightKit* k) { return k->output.has_value(); });
  if (!glossy || lamp == spare.end()) return;
  const Vec3 at = glossy->pose.place, aim{at.x, glossy->height, at.z};
  const Vec3 place{at.x - 0.8, std::max(0.3, glossy->height), at.z + 0.4};
  // Behind a front of the kit, else behind cloth or paper as wide and high as one is made.
  Json light = lamp_json(s, **lamp, place, aim, {{"width", 0.25}, {"height", 1.0}, {"meant_for", "product"}});
  if (const Modifier* front = strip_front(s)) put_face(light, *front);
  const auto more = with_more(s, b.document, "lights", "strip", light);
  if (!more) return;
  const std::string path = s.setup_path + "/lights";
  const Json added = value_at(*more, path)->back();
  auto found = stripe_among({b.forecaster, *more, b.shot, b.cancel}, w);
  if (!found) return;
  const std::string name = added.value("name", std::string()),
                    own = fmt::format("{}/{}/", path, s.setup->own_lights());
  for (Grant& grant : found->list) {
    if (!grant.changes.empty() && !grant.changes.front().first.starts_with(own)) continue;  // of a strip there is
    grant.title = grant.changes.empty() ? said("Set up {} as a strip", name)
                                        : said("Set up {} as a strip. {}", name, grant.title);
    grant.changes.insert(grant.changes.begin(), {path + "/-", added});
    const auto then = with_values(b.document, grant.changes);
    ProjectReader reader;
    if (const std::string names = then ? newly_short(s.project, reader.read(*then)) : std::string();
        !names.empty())
      out.why = said("not owned: {}", names);
    else if (then)
      out.list.push_back(std::move(grant));
  }
  if (out.list.empty() && std::abs(found->short_of) < std::abs(out.short_of))
    out.short_of = found->short_of, out.why = found->why;
}
}  // namespace

Expected<Grants> grant_stripe(const WishBench& b, const Wish& w) {
  auto out = stripe_among(b, w);
  if (!out || !out->list.empty() || b.look_only) return out;
  stripe_with_another(b, w, *out);
  // A card may be in its way: without it.
  const WishStage s(b.document, b.shot);
  for (std::size_t k = 0; k < s.setup->cards.size(); ++k) {
    const std::string path = fmt::format("{}/cards/{}", s.setup_path, k);
    const auto without = with_values(b.document, {{path, std::nullopt}});
    if (!without) continue;
    auto freed = stripe_among({b.forecaster, *without, b.shot, b.cancel}, w);
    if (!freed) continue;
    for (Grant& grant : freed->list) {
      const Card& card = s.setup->cards[k];
      grant.title = said("{}, and take {} away", grant.title, card.name.empty() ? card.id : card.name);
      grant.changes.emplace_back(path, std::nullopt);
      out->list.push_back(std::move(grant));
    }
    if (std::abs(freed->short_of) < std::abs(out->short_of))
      out->short_of = freed->short_of, out->why = freed->why;
  }
  return out;
}

}  // namespace cinnabar
