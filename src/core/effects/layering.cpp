// Layers that land on one another, and what their slings do to them.
#include <algorithm>
#include <cmath>
#include <memory>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/drawn.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/flown.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/effects/kinds.h"

namespace cinnabar {
namespace {

/// How what lies gives when something lands on it: a mass on a spring (the balance of energy and weight). Its
/// ringing dies away in about two swings (common practice, no source).
struct Landing {
  double mass, stiffness, speed;
  static constexpr double damping = 0.25;
  [[nodiscard]] double swings() const { return std::sqrt(stiffness / mass); }  ///< radians a second
  /// The deepest, were nothing lost: (m g + sqrt(m2 g2 + k m v2)) / k.
  [[nodiscard]] double deepest() const {
    if (stiffness <= 0.0) return 0.0;
    const double weight = mass * standard_gravity;
    return (weight + std::sqrt(weight * weight + stiffness * mass * speed * speed)) / stiffness;
  }
  /// When it is that deep after it lands.
  [[nodiscard]] double deepest_at() const {
    return (0.5 * pi + std::atan(standard_gravity / (swings() * speed))) / swings();
  }
  [[nodiscard]] double depth(double since) const {
    if (stiffness <= 0.0 || since <= 0.0) return 0.0;
    const double w = swings(), sag = mass * standard_gravity / stiffness, left = std::exp(-damping * w * since);
    return sag * (1.0 - left * std::cos(w * since)) + speed / w * left * std::sin(w * since);
  }
};

/// What cut slings do to a layer: the kick at most, and how far that carries it aside while it falls.
struct Kicked {
  double speed = 0, aside = 0;
};
Expected<Kicked> kicked_by_slings(const EffectAsked& ask, double longest_fall) {
  constexpr double rubber = 930.0;  // kg/m3
  if (ask["length"] <= 0.0) return Kicked{};
  const auto gone = recoil({ask["modulus"], rubber, ask["stretch"], ask["length"], ask["friction"]});
  if (!gone) return tl::unexpected(gone.error());
  return Kicked{gone->kick_speed, gone->kick_speed * longest_fall};
}

}  // namespace

Expected<EffectOutcome> layered(const EffectAsked& ask) {
  std::vector<double> heights = ask.list("heights"), speeds = ask.list("terminal_speeds");
  speeds.resize(heights.size(), speeds.empty() ? 0.0 : speeds.back());
  const auto laid = layer_drop({heights, speeds, ask["stagger"]});
  if (!laid) return tl::unexpected(laid.error());
  const double thick = ask["thickness"], size = ask["size"];
  EffectOutcome out;
  struct Layer {
    double from, lands;
    std::shared_ptr<const Flown> way;
    Vec3 aside;  ///< m/s while it falls
    Landing landing;
  };
  std::vector<Layer> layers;
  Drawn drawn(ask.seed);
  double first = 1e300, last = 0.0, fastest = 0.0, longest_fall = 0.0;
  for (std::size_t i = 0; i < heights.size(); ++i) {
    const double lies = lies_under(ask, ask.place.x, ask.place.z) + (static_cast<double>(i) + 0.5) * thick,
                 from = ask.at + laid->offsets[i];
    const double round = 360.0 * drawn(), share_of_kick = drawn();
    Layer layer{from,
                from,
                std::make_shared<const Flown>(
                    Flight3{{ask.place.x, lies + heights[i], ask.place.z}, {}, speeds[i], lies, 0.0}),
                turned({0, 0, 1}, round) * share_of_kick,
                {ask["mass"], ask["stiffness"], laid->speeds[i]}};
    layer.lands = from + layer.way->rests();
    longest_fall = std::max(longest_fall, layer.way->rests());
    first = std::min(first, layer.lands), last = std::max(last, layer.lands);
    fastest = std::max(fastest, laid->speeds[i]);
    out.numbers.push_back({"release_" + std::to_string(i + 1), "s", laid->offsets[i]});
    layers.push_back(std::move(layer));
  }
  const auto kicked = kicked_by_slings(ask, longest_fall);
  if (!kicked) return tl::unexpected(kicked.error());
  for (Layer& layer : layers) layer.aside = layer.aside * kicked->speed;  // one drawing of it, no more than that
  out.events = {by_hand("release", ask.at, hand_cuts), by_hand("lands", first, hand_cuts),
                by_hand("settles", last, hand_cuts)};
  out.numbers.push_back({"landing_speed", "m/s", fastest});
  if (kicked->speed > 0.0) {
    out.numbers.push_back({"kick", "m/s", kicked->speed, "at most, ±50 %"});
    out.numbers.push_back({"aside", "m", kicked->aside, "at most, ±50 %"});
    if (kicked->aside > 0.25 * size)
      out.notes.push_back(said(
          "A sling's kick carries a layer aside by up to {:.0f} mm, over a quarter of its width, and it slides "
          "off: shorter or slacker slings, or let it fall from lower.",
          kicked->aside * 1e3));
  }
  if (const Landing hardest{ask["mass"], ask["stiffness"], fastest}; hardest.stiffness > 0.0) {
    out.numbers.push_back({"squash", "m", hardest.deepest()});
    out.numbers.push_back({"squash_time", "s", hardest.deepest_at()});
    if (hardest.deepest() > thick)
      out.notes.push_back(
          said("It gives by more than a layer is thick: let it fall from lower, or take something "
               "stiffer."));
  }
  std::vector<double> order = laid->offsets;
  std::sort(order.begin(), order.end());
  double closest = 1e300;
  for (std::size_t i = 1; i < order.size(); ++i) closest = std::min(closest, order[i] - order[i - 1]);
  if (closest < 0.1)
    out.notes.push_back(
        said("Two releases lie {:.0f} ms apart: under a tenth of a second that needs another hand or "
             "relays.",
             closest * 1e3));
  out.notes.push_back(said("Change one thing a take: the height, the release, or the sling."));
  out.bodies.push_back(
      {EffectForm::box, {size / 2, thick / 2, size / 2}, false, [layers, thick](double, double t) {
         std::vector<EffectShape> shapes;
         for (std::size_t i = 0; i < layers.size(); ++i) {
           const Layer& layer = layers[i];
           Vec3 place = layer.way->at(t - layer.from) +
                        layer.aside * std::clamp(t - layer.from, 0.0, layer.lands - layer.from);
           // What lies gives under those that land on it, down to what it lies on.
           double gives = 0.0;
           if (t > layer.lands)
             for (std::size_t k = i; k < layers.size(); ++k)
               gives = std::max(gives, layers[k].landing.depth(t - layers[k].lands));
           place.y -= std::clamp(gives, -0.2 * thick, 0.45 * thick * static_cast<double>(i + 1));
           shapes.push_back({place});
         }
         return shapes;
       }});
  out.perils = {Peril::strings, Peril::food};
  return out;
}

}  // namespace cinnabar
