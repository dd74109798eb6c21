// Levels of light.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/color/white.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/photometry/exposure.h"
#include "cinnabar/planning/warming.h"

namespace cinnabar {
namespace {

/// The highest face's illuminance, and the moment's camera.
double highest_face(const LightMoment& m) {
  double most = 0.0;
  for (const Reading& face : m.measure->faces) most = std::max(most, m.lux(face));
  return most;
}

}  // namespace

std::optional<LitFace> lit_face(const LightMoment& m) {
  const Film& film = m.measure->film;
  const Picture picture = mixed(film, m.weights);
  std::vector<std::optional<double>> cards(film.pixels());
  bool any = false;
  for (std::size_t p = 0; p < film.pixels(); ++p)
    if (is_lit_part(film.first[p])) {
      const double reflects = std::max(0.05, static_cast<double>(luminance(film.first[p].albedo)));
      cards[p] = luminance(picture.pixels[p]) * 0.18 / reflects;
      any = true;
    }
  if (any) return LitFace{mean_of_extreme(film, cards, 1.0 / 3, true), false};
  if (!m.measure->front()) return std::nullopt;
  return LitFace{0.18 * m.lux(*m.measure->front()) / pi, true};
}

double mean_of_extreme(const Film& film, const std::vector<std::optional<double>>& by_pixel, double part,
                       bool brightest) {
  std::vector<std::pair<double, double>> ranked;  // by the mean about it, its own
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const auto& own = by_pixel[film.at(x, y)];
      if (!own) continue;
      double sum = 0.0;
      int count = 0;
      for (int j = std::max(0, y - 2); j <= std::min(film.height - 1, y + 2); ++j)
        for (int i = std::max(0, x - 2); i <= std::min(film.width - 1, x + 2); ++i)
          if (const auto& near = by_pixel[film.at(i, j)]) sum += *near, ++count;
      ranked.emplace_back((brightest ? -sum : sum) / count, *own);
    }
  const auto kept =
      std::max<std::size_t>(1, static_cast<std::size_t>(part * static_cast<double>(ranked.size()) + 1e-9));
  std::nth_element(ranked.begin(), ranked.begin() + static_cast<std::ptrdiff_t>(kept - 1), ranked.end());
  double sum = 0.0;
  for (std::size_t i = 0; i < kept; ++i) sum += ranked[i].second;
  return sum / static_cast<double>(kept);
}

std::optional<Level> light_product(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<std::pair<LitFace, double>> faces;
  bool dark = false;
  for (const LightMoment& m : c.light()) {
    const auto face = lit_face(m);
    if (!face) continue;
    if (face->luminance <= darkest) {
      dark = true;
      continue;
    }
    moments.push_back({std::log2(face->luminance / exposures_grey(m.camera)) - c.shot.target_stops, m.set_time});
    faces.emplace_back(*face, exposures_grey(m.camera));
  }
  if (moments.empty() || dark) return unknown(level, dark ? "no light at all reaches the product" : no_light(c));
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const std::size_t at = worst.at;
  level.formula = said("log2(lit face as 18 % grey / exposure's grey) - target = log2({} / {} cd/m2) - {} = {}",
                       number_text(faces[at].first.luminance), number_text(faces[at].second),
                       number_text(c.shot.target_stops, 3), signed_text(worst.value, 2));
  level.sentence =
      said("{} {} stop {} its target.",
           faces[at].first.by_card ? "A grey card at the product's front is" : "The product's lit face is",
           fixed_text(std::abs(worst.value), 1), worst.value < 0 ? "under" : "over");
  return level;
}

namespace {
/// As it is recorded, 0 to 255: the share of clipping on the curve of IEC 61966-2-1.
int recorded(const StagedCamera& camera, double luminance_in) {
  return static_cast<int>(
      std::lround(255.0 * srgb_encode(std::min(1.0, luminance_in * signal_per_luminance(camera)))));
}
}  // namespace

std::optional<Level> light_backdrop(const ShotContext& c, const LevelStart& start) {
  const auto rule = c.project.rule<BackdropRule>(c.shot);
  const bool gradient = rule == BackdropRule::gradient, white = rule == BackdropRule::white;
  const Band band = white                          ? Band{-0.3, 0.5}
                    : gradient                     ? Band{2.0, 4.0}
                    : rule == BackdropRule::colour ? Band{-2.0, 0.5}
                    : rule == BackdropRule::key    ? Band{-1.0, 0.5}
                                                   : Band{{}, -5.0};
  Level level = start(band, "house rule backdrop: " + rule_name(rule) + "; common practice, no source");
  struct Ground {
    double light, against;
    int shown;
    bool surface;
  };
  std::vector<Worst> moments;
  std::vector<Ground> readings;
  bool dark = false;
  for (const LightMoment& m : c.light()) {
    const Role role = backdrop_role(m);
    auto ground = block_luminances(
        m, [role](const FirstHit& hit) { return hit.mesh && hit.mesh->role == role; }, 4);
    if (ground.empty()) continue;
    const double a = gradient ? quantile(ground, 0.95) : quantile(ground, 0.5);
    const double b = gradient ? quantile(ground, 0.05)
                     : white  ? 1.0 / signal_per_luminance(m.camera)
                              : exposures_grey(m.camera);
    if (a <= darkest || b <= darkest) {
      dark = true;
      continue;
    }
    moments.push_back({std::log2(a / b), m.set_time});
    readings.push_back({a, b, recorded(m.camera, a), role == Role::surface});
  }
  if (dark) return unknown(level, "no light at all reaches the backdrop, or a part of it");
  if (moments.empty()) return std::nullopt;  // the backdrop is not in the picture
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const Ground& r = readings[worst.at];
  level.formula = said("log2({} / {}) = log2({} / {} cd/m2) = {}", gradient ? "bright end" : "backdrop",
                       gradient ? "dark end"
                       : white  ? "clipping"
                                : "exposure's grey",
                       number_text(r.light), number_text(r.against), signed_text(worst.value, 2));
  const char* what = r.surface ? "The surface, which is the backdrop here," : "The backdrop";
  level.sentence = gradient ? said("{} runs over {} stops; its bright end is recorded at {} of 255.", what,
                                   fixed_text(worst.value, 1), r.shown)
                   : white
                       ? said("{} is {} stops {} clipping, recorded at {} of 255.", what,
                              fixed_text(std::abs(worst.value), 1), worst.value < 0 ? "under" : "over", r.shown)
                       : said("{} is {} stops {} the exposure's grey, recorded at {} of 255.", what,
                              fixed_text(std::abs(worst.value), 1), worst.value < 0 ? "under" : "over", r.shown);
  return level;
}

namespace {
bool sparkles(const FirstHit& hit) {
  if (!hit.mesh) return false;
  const MaterialKind kind = hit.mesh->material.kind;
  return kind == MaterialKind::gloss || kind == MaterialKind::metal || kind == MaterialKind::mirror ||
         kind == MaterialKind::glass || kind == MaterialKind::liquid;
}
}  // namespace

std::optional<Level> light_highlight(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const bool white = c.project.rule<BackdropRule>(c.shot) == BackdropRule::white;
  std::vector<Worst> moments;
  std::vector<std::pair<double, double>> numbers;
  bool sparkling = false;
  for (const LightMoment& m : c.light()) {
    const Film& film = m.measure->film;
    const Picture picture = mixed(film, m.balanced);
    const Role ground = backdrop_role(m);
    std::vector<double> all;
    for (std::size_t p = 0; p < film.pixels(); ++p) {
      sparkling = sparkling || sparkles(film.first[p]);
      if (white && film.first[p].mesh && film.first[p].mesh->role == ground) continue;
      const Rgb& rgb = picture.pixels[p];
      all.push_back(static_cast<double>(std::max({rgb.x, rgb.y, rgb.z})));
    }
    if (all.empty()) continue;
    const double top = quantile(all, 0.999), clip = 1.0 / signal_per_luminance(m.camera);
    if (top <= darkest) continue;
    moments.push_back({std::log2(clip / top), m.set_time});
    numbers.emplace_back(clip, top);
  }
  if (moments.empty()) return unknown(level, "no light reaches the picture");
  if (!sparkling && !c.project.bands.contains(level.id))
    level.band.high.reset();  // nothing here has a highlight to want
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = said("log2(clipping / brightest thousandth, in its largest channel) = log2({} / {} cd/m2) = {}",
                       number_text(numbers[worst.at].first), number_text(numbers[worst.at].second),
                       signed_text(worst.value, 2));
  level.sentence =
      worst.value < 0
          ? said("The brightest thousandth of the picture clips by {} stop.", fixed_text(-worst.value, 1))
          : said("The brightest thousandth of the picture is {} stop under clipping.", fixed_text(worst.value, 1));
  return level;
}

std::optional<Level> light_white(const ShotContext& c, const LevelStart& start) {
  struct Source {
    std::string name;
    double kelvin, shift;
  };
  std::optional<Source> worst, warmest, coolest;  // the last two: lights alone
  const auto take = [&](const std::string& name, double kelvin) {
    const auto from_balance = mired({c.camera.balance_k, kelvin});
    const double shift = from_balance ? from_balance->shift : 0.0;
    Source now{name, kelvin, shift};
    if (!worst || std::abs(shift) > std::abs(worst->shift)) worst = now;
    return now;
  };
  for (const Light& l : c.setup->lights) {
    if (l.gel_bands || l.colour_meant) continue;  // a colour on purpose is no white that is off
    if (!l.on || l.full_luminance() <= 0.0) continue;
    const KeyedTrack* track = c.shot.track(Tracked::light_dimmer, l.id);
    std::vector<double> dimmers{l.dimmer};
    if (track && !track->keys.empty()) {
      dimmers.clear();
      for (const auto& [at, value] : track->keys) dimmers.push_back(value);
    }
    Light dimmed = l;  // a filament's white goes with its dimmer
    for (const double dimmer : dimmers) {
      if (dimmer <= 0.0) continue;
      dimmed.dimmer = std::min(dimmer, 1.0);
      const Source now = take(l.name, dimmed.white_kelvin());
      if (!warmest || now.shift > warmest->shift) warmest = now;
      if (!coolest || now.shift < coolest->shift) coolest = now;
    }
  }
  if (c.setup->ambient_lx > 0.0) take("the ambient light", c.setup->ambient_kelvin);
  if (!worst) return std::nullopt;
  Level level = start();
  settle(level, {worst->shift, 0.0});
  level.formula = fmt::format("10^6 / {} K - 10^6 / {} K = {}", number_text(worst->kelvin, 5),
                              number_text(c.camera.balance_k, 5), signed_text(worst->shift, 0));
  level.sentence = said("{} is {} mired {} than the camera's balance.", worst->name,
                        fixed_text(std::abs(worst->shift), 0), worst->shift >= 0 ? "warmer" : "cooler");
  constexpr double a_colour =
      50.0;  // mired either way that look like two colours, not like one white; own measure
  if (warmest && coolest && warmest->shift >= a_colour && coolest->shift <= -a_colour)
    level.sentence = said(
        "{} is {} mired warmer and {} {} mired cooler than the camera's balance: two colours. If "
        "they are meant, say so of both.",
        warmest->name, fixed_text(warmest->shift, 0), coolest->name, fixed_text(-coolest->shift, 0));
  if (const auto slow = longest_warm_up(c.project, *c.setup))
    level.sentence +=
        " " + said("{} keeps its white once it has burned {} min.", slow->name, number_text(slow->minutes, 3));
  return level;
}

std::optional<Level> camera_stops(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<std::pair<double, double>> numbers;
  double n_effective = 0.0;
  bool dark = false;
  for (const LightMoment& m : c.light()) {
    if (m.measure->faces.empty()) continue;
    const double e = highest_face(m), needed = exposures_grey(m.camera) * pi / 0.18;
    n_effective = m.camera.f_number_effective;
    if (e <= darkest) {
      dark = true;
      continue;
    }
    moments.push_back({std::log2(e / needed) - c.shot.target_stops, m.set_time});
    numbers.emplace_back(e, needed);
  }
  if (moments.empty() || dark) return unknown(level, dark ? "no light at all reaches the product" : no_light(c));
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const std::size_t at = worst.at;
  level.formula =
      said("log2(E / E_needed) - target = log2({} / {} lx) - {} = {}; f/{} works as f/{} at this focus",
           number_text(numbers[at].first), number_text(numbers[at].second), number_text(c.shot.target_stops, 3),
           signed_text(worst.value, 2), number_text(c.camera.f_number, 3), number_text(n_effective, 3));
  level.sentence =
      said("There {} {} stop {} light than {}, f/{} and ISO {} need.", "is", fixed_text(std::abs(worst.value), 1),
           worst.value < 0 ? "less" : "more", shutter_text(c.camera.shutter_time),
           number_text(c.camera.f_number, 3), number_text(c.camera.iso, 6));
  return level;
}

}  // namespace cinnabar
