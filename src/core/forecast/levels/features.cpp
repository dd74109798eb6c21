#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/optics/lens.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

/// Mean luminance of three by three pixels of a measured film about a place of the picture, and how near the first
/// thing there is.
struct FilmPlace {
  double luminance, nearest;
};
FilmPlace film_at(const LightMoment& m, const Picture& picture, double u, double v) {
  const Film& film = m.measure->film;
  const int cx = std::clamp(static_cast<int>(u * film.width), 0, film.width - 1),
            cy = std::clamp(static_cast<int>(v * film.height), 0, film.height - 1);
  FilmPlace place{0.0, 1e9};
  int count = 0;
  for (int y = std::max(0, cy - 1); y <= std::min(film.height - 1, cy + 1); ++y)
    for (int x = std::max(0, cx - 1); x <= std::min(film.width - 1, cx + 1); ++x) {
      place.luminance += luminance(picture.pixels[film.at(x, y)]);
      ++count;
    }
  place.luminance /= count;
  place.nearest = static_cast<double>(film.first[film.at(cx, cy)].distance);
  return place;
}

}  // namespace

std::string FeatureSeen::missing() const {
  std::string words;
  const auto add = [&](bool good, const std::string& what) {
    if (!good) words += (words.empty() ? "" : ", ") + what;
  };
  add(inside, said("it is outside the frame"));
  if (!inside) return words;
  add(square(), said("it is turned {} degrees away", fixed_text(turned_deg, 0)));
  add(uncovered, said("something stands before it"));
  add(sharp, said("it is blurred over {} px", number_text(blur_px, 2)));
  add(lit, lit_stops ? said("it is {} stops from the target", signed_text(*lit_stops, 1))
                     : said("no light at all reaches it"));
  return words;
}

Vec3 feature_normal(const Product& product, const Feature& f) {
  const double r = std::hypot(f.at.x, f.at.z), top = height_span(product).second;
  // On the top, not at its rim: it looks up.
  const double bearing = degrees(std::atan2(f.at.x, f.at.z));
  if (f.at.y > top - 0.002 && r < 0.9 * reach_at(product, top - 0.002, bearing)) return {0, 1, 0};
  if (r <= 1e-6) return {0, 1, 0};
  const auto side = side_at(product, f.at.y, bearing);
  const Vec3 level = side ? Vec3{side->out.x, 0, side->out.z} : Vec3{};
  return length(level) > 1e-6 ? unit(level) : Vec3{f.at.x / r, 0, f.at.z / r};
}

std::optional<NamedFeature> feature_named(const Project& project, const std::string& name) {
  const auto slash = name.find('/');
  const Product* product = by_id(project.products, name.substr(0, slash));
  if (!product || slash == std::string::npos) return std::nullopt;
  for (const Feature& f : product->features)
    if (f.id == name.substr(slash + 1)) return NamedFeature{product, &f};
  return std::nullopt;
}

std::optional<FeatureSeen> feature_seen(const ShotContext& c, const Product& product, const Feature& feature) {
  const auto placed = std::find_if(c.shot.products.begin(), c.shot.products.end(),
                                   [&](const ShotProduct& p) { return p.product == product.id; });
  if (placed == c.shot.products.end() || !c.shot.camera || !c.setup || c.light().empty()) return std::nullopt;
  const Vec3 normal = feature_normal(product, feature);
  const double detail = feature.detail.value_or(0.001);
  std::optional<FeatureSeen> best;
  int most = -1;
  for (const LightMoment& m : c.light()) {  // what is looked up comes from that moment's picture
    const double t = m.set_time;
    const Picture picture = mixed(m.measure->film, m.weights);
    const CameraPose pose = c.pose(t);
    const ProductPose place = product_at(c.project, c.shot, *placed, t);
    const Vec3 at = place.world(feature.at), eye = pose.place - at;
    const auto image = image_of(pose, at);
    FeatureSeen seen{.set_time = t};
    seen.turned_deg = degrees(std::acos(std::clamp(dot(unit(eye), place.direction(normal)), -1.0, 1.0)));
    if (image) {
      const double u = image->x / c.optics.sensor_width + 0.5, v = 0.5 - image->y / c.optics.sensor_height;
      seen.inside = u >= 0 && u <= 1 && v >= 0 && v <= 1;
      const double depth = pose.depth(at), magnification = pose.image_distance() / depth;
      seen.px = detail * magnification / c.optics.delivered_pitch;
      const double blur = std::abs(depth - pose.focus) / depth * pose.focal / (pose.focus - pose.focal) *
                          pose.focal / c.camera.f_number;
      seen.blur_px = blur / c.optics.delivered_pitch;
      seen.sharp = seen.blur_px <= std::max(1.0, seen.px / 3.0);
      if (seen.inside) {
        const FilmPlace film = film_at(m, picture, u, v);
        if (film.luminance > darkest)
          seen.lit_stops = std::log2(film.luminance / exposures_grey(m.camera)) - c.shot.target_stops;
        seen.lit = seen.lit_stops && std::abs(*seen.lit_stops) <= feature_within_stops;
        // What is met first may be the product's own glass or rim: as near as half its width counts as itself.
        const double own = std::max(0.02, 0.5 * reach_at(product, feature.at.y, 90.0));
        seen.uncovered = film.nearest > length(eye) - own;
      }
    }
    const int held = seen.inside + seen.uncovered + seen.sharp + seen.lit + seen.square();
    if (held > most || (held == most && best && seen.px > best->px)) most = held, best = seen;
  }
  return best;
}

std::optional<Level> frame_feature(const ShotContext& c, const LevelStart& start) {
  std::optional<Level> worst;
  double worst_by = -1e300;
  for (const std::string& name : c.shot.features) {
    const auto named = feature_named(c.project, name);
    if (!named) continue;
    const Feature& f = *named->feature;
    Level level = start(
        {least_px(f), {}},
        f.read ? "24 px of text height, within 60 degrees, sharp, within 1.5 stops; common practice, no source"
               : "2 px of the finest detail (Nyquist), within 60 degrees, sharp, within 1.5 stops; "
                 "common practice, no source");
    const auto seen = feature_seen(c, *named->product, f);
    const std::string what = f.name.empty() ? f.id : f.name;
    if (!seen) {
      if (!worst) worst = unknown(level, said("{} is not in this shot, or its light cannot be measured", what));
      continue;
    }
    settle(level, {seen->px, seen->set_time});
    if (!seen->seen()) level.state = State::out;
    level.formula = said("{}: {} mm are {} px delivered; {} degrees from square, blur {} px", what,
                         number_text(1e3 * f.detail.value_or(0.001), 3), number_text(seen->px, 3),
                         fixed_text(seen->turned_deg, 0), number_text(seen->blur_px, 2));
    level.formula +=
        seen->lit_stops ? said(", {} stops from the target", signed_text(*seen->lit_stops, 1)) : said(", unlit");
    level.sentence = seen->seen()
                         ? said("At its best {} is {} px large and seen well.", what, number_text(seen->px, 3))
                         : said("{} is not seen well: {}.", what, seen->missing());
    const double by = (seen->seen() ? 0.0 : 1e6) + badness(seen->px, level.band);
    if (!worst || !worst->value || by > worst_by) worst_by = by, worst = std::move(level);
  }
  return worst;
}

Level FeatureView::level() const {
  Level level{
      .id = "frame.feature", .title = name, .unit = Unit::px, .band = {least, {}}, .source = "as frame.feature"};
  if (!shot) {
    level.state = State::out;
    level.sentence = said("No shot has it.");
    return level;
  }
  level.value = seen.px;
  level.state = seen.seen() ? state_of(seen.px, level.band) : State::out;
  level.sentence = level.state == State::level ? said("Seen best in shot {}.", *shot + 1)
                   : seen.seen()               ? said("Best in shot {}, and small there.", *shot + 1)
                                               : said("Best in shot {}: {}.", *shot + 1, seen.missing());
  return level;
}

std::vector<FeatureView> feature_views(const Forecaster& forecaster, const Project& project,
                                       const std::atomic<bool>* cancel) {
  std::vector<FeatureView> list;
  for (const auto& product : project.products)
    for (const Feature& f : product->features)
      list.push_back({product->id, f.id, f.name.empty() ? f.id : f.name, f.read, {}, {}, least_px(f)});
  for (std::size_t i = 0; i < project.shots.size() && !list.empty(); ++i) {
    if (cancel && cancel->load()) return {};
    const ShotContext context(project, i, forecaster.measures(), forecaster.quality(), cancel);
    for (FeatureView& view : list) {
      const auto named = feature_named(project, view.product + "/" + view.feature);
      const auto seen = named ? feature_seen(context, *named->product, *named->feature) : std::nullopt;
      if (!seen) continue;
      const bool better =
          !view.shot || (seen->seen() != view.seen.seen() ? seen->seen() : seen->px > view.seen.px);
      if (better) view.shot = i, view.seen = *seen;
    }
  }
  if (cancel && cancel->load()) return {};
  return list;
}

}  // namespace cinnabar
