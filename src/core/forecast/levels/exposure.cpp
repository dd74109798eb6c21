// Levels of light.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/photometry/exposure.h"

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
  auto list = luminances(m, is_lit_part);
  if (list.empty()) {
    if (!m.measure->card) return std::nullopt;
    return LitFace{0.18 * m.lux(*m.measure->card) / pi, true};
  }
  const std::size_t third = std::max<std::size_t>(1, list.size() / 3);
  std::nth_element(list.begin(), list.begin() + static_cast<std::ptrdiff_t>(third - 1), list.end(),
                   std::greater<>());
  double sum = 0.0;
  for (std::size_t i = 0; i < third; ++i) sum += list[i];
  return LitFace{sum / static_cast<double>(third), false};
}

std::optional<Level> light_product(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<std::pair<LitFace, double>> faces;
  for (const LightMoment& m : c.light()) {
    const auto face = lit_face(m);
    if (!face) continue;
    moments.push_back({log2_ratio(face->luminance, exposures_grey(m.camera)) - c.shot.target_stops, m.set_time});
    faces.emplace_back(*face, exposures_grey(m.camera));
  }
  if (moments.empty()) return unknown(level, no_light(c));
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const std::size_t at = worst.at;
  level.formula = said("log2(lit face / exposure's grey) - target = log2({} / {} cd/m2) - {} = {}",
                       number_text(faces[at].first.luminance), number_text(faces[at].second),
                       number_text(c.shot.target_stops, 3), signed_text(worst.value, 2));
  level.sentence =
      said("{} {} stop {} its target.",
           faces[at].first.by_card ? "A grey card at the product's front is" : "The product's lit face is",
           fixed_text(std::abs(worst.value), 1), worst.value < 0 ? "under" : "over");
  return level;
}

std::optional<Level> light_backdrop(const ShotContext& c, const LevelStart& start) {
  const std::string rule = c.project.rule("backdrop", c.shot);
  const Band band = rule == "white"      ? Band{0.7, 1.5}
                    : rule == "gradient" ? Band{2.0, 4.0}
                    : rule == "colour"   ? Band{-2.0, 0.5}
                    : rule == "key"      ? Band{-1.0, 0.5}
                                         : Band{{}, -5.0};
  Level level = start(band, "house rule backdrop: " + rule + "; common practice, no source");
  const bool gradient = rule == "gradient";
  std::vector<Worst> moments;
  std::vector<std::pair<double, double>> numbers;
  for (const LightMoment& m : c.light()) {
    auto backdrop = luminances(m, is_backdrop);
    const auto face = lit_face(m);
    if (backdrop.empty() || !face) continue;
    const double a = gradient ? quantile(backdrop, 0.95) : quantile(backdrop, 0.5);
    const double b = gradient ? quantile(backdrop, 0.05) : face->luminance;
    moments.push_back({std::clamp(log2_ratio(a, b), -30.0, 30.0), m.set_time});
    numbers.emplace_back(a, b);
  }
  if (moments.empty()) return std::nullopt;  // the backdrop is not in the picture
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const std::size_t at = worst.at;
  level.formula = said("log2({} / {}) = log2({} / {} cd/m2) = {}", gradient ? "bright end" : "backdrop",
                       gradient ? "dark end" : "lit face", number_text(numbers[at].first),
                       number_text(numbers[at].second), signed_text(worst.value, 2));
  level.sentence = gradient ? said("The backdrop runs over {} stops.", fixed_text(worst.value, 1))
                            : said("The backdrop is {} stops {} the product's lit face.",
                                   fixed_text(std::abs(worst.value), 1), worst.value < 0 ? "under" : "over");
  return level;
}

std::optional<Level> light_highlight(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<double> brightest;
  for (const LightMoment& m : c.light()) {
    auto all = luminances(m, [](const FirstHit&) { return true; });
    const double top = quantile(all, 0.999);
    if (top <= darkest) continue;
    moments.push_back({stops_under_clip(m.camera, top), m.set_time});
    brightest.push_back(top);
  }
  if (moments.empty()) return unknown(level, "no light reaches the picture");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const std::size_t at = worst.at;
  const double clip = brightest[at] * std::exp2(worst.value);
  level.formula = said("log2(clipping / brightest thousandth) = log2({} / {} cd/m2) = {}", number_text(clip),
                       number_text(brightest[at]), signed_text(worst.value, 2));
  level.sentence =
      worst.value < 0
          ? said("The brightest thousandth of the picture clips by {} stop.", fixed_text(-worst.value, 1))
          : said("The brightest thousandth of the picture is {} stop under clipping.", fixed_text(worst.value, 1));
  return level;
}

std::optional<Level> light_white(const ShotContext& c, const LevelStart& start) {
  const Light* worst_light = nullptr;
  double worst = 0.0;
  for (const Light& l : c.setup->lights) {
    if (!l.on || l.full_luminance() <= 0.0) continue;
    const double shift = 1e6 / l.white_kelvin() - 1e6 / c.camera.balance_k;
    if (!worst_light || std::abs(shift) > std::abs(worst)) worst_light = &l, worst = shift;
  }
  if (!worst_light) return std::nullopt;
  Level level = start();
  settle(level, {worst, 0.0});
  level.formula = fmt::format("10^6 / {} K - 10^6 / {} K = {}", number_text(worst_light->white_kelvin(), 5),
                              number_text(c.camera.balance_k, 5), signed_text(worst, 0));
  level.sentence = said("{} is {} mired {} than the camera's balance.", worst_light->name,
                        fixed_text(std::abs(worst), 0), worst >= 0 ? "warmer" : "cooler");
  return level;
}

std::optional<Level> camera_stops(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<std::pair<double, double>> numbers;
  double n_effective = 0.0;
  for (const LightMoment& m : c.light()) {
    if (m.measure->faces.empty()) continue;
    const double e = highest_face(m), needed = exposures_grey(m.camera) * pi / 0.18;
    n_effective = m.camera.f_number_effective;
    moments.push_back({std::clamp(log2_ratio(e, needed), -40.0, 40.0) - c.shot.target_stops, m.set_time});
    numbers.emplace_back(e, needed);
  }
  if (moments.empty()) return unknown(level, no_light(c));
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
