#include "cinnabar/forecast/measures/shining.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/forecast/measures/strongest.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// Share of the way from one place to another at which it goes through a card; nothing where it goes past.
std::optional<double> crossing(const Card& card, const Vec3& from, const Vec3& to) {
  const Facing f = facing(card.place, card.aim, card.roll_deg);
  const double a = dot(from - card.place, f.ahead), b = dot(to - card.place, f.ahead);
  if (a * b >= 0.0) return std::nullopt;
  const double share = a / (a - b);
  const Vec3 at = from + (to - from) * share - card.place;
  if (std::abs(dot(at, f.right)) > card.width / 2 || std::abs(dot(at, f.up)) > card.height / 2)
    return std::nullopt;
  return share;
}

/// What of a sheet shines on a place.
Shining of_sheet(const Card& card, const Light& light, const Vec3& at) {
  constexpr int cells = 40;
  const Facing f = facing(card.place, card.aim, card.roll_deg),
               lamp = facing(light.place, light.aim, light.roll_deg);
  const bool round = light.shape == LightShape::bare || light.shape == LightShape::tube;
  const Material& m = card.material;
  const double lobe = std::max(1.0, std::log(0.5) / std::log(std::cos(radians(m.lobe_deg))));
  double sum = 0, sx = 0, sy = 0, sxx = 0, syy = 0;
  for (int i = 0; i < cells; ++i)
    for (int j = 0; j < cells; ++j) {
      const double x = ((i + 0.5) / cells - 0.5) * card.width, y = ((j + 0.5) / cells - 0.5) * card.height;
      const Vec3 place = card.place + f.right * x + f.up * y, in = place - light.place, out = at - place;
      const double din = length(in), dout = length(out);
      if (din <= 0.0 || dout <= 0.0) continue;
      const double given = round ? 1.0 : std::max(0.0, dot(in, lamp.ahead) / din);
      const double ci = std::abs(dot(in, f.ahead)) / din, co = std::abs(dot(out, f.ahead)) / dout,
                   straight = std::max(0.0, dot(in, out) / (din * dout));
      const double spread = (1.0 - m.forward) / pi +
                            m.forward * (lobe + 1.0) * std::pow(straight, lobe) / (2.0 * pi * std::max(ci, co));
      const double w = given * ci / (din * din) * spread * co / (dout * dout);
      sum += w, sx += w * x, sy += w * y, sxx += w * x * x, syy += w * y * y;
    }
  if (sum <= 0.0) return {card.place, std::min(card.width, card.height), {}};
  const double mx = sx / sum, my = sy / sum;
  const auto wide = [](double mean_square, double mean) {  // of an even strip of that spread
    return 2.0 * std::sqrt(3.0 * std::max(0.0, mean_square - mean * mean));
  };
  const double own = std::min(wide(sxx / sum, mx), wide(syy / sum, my));
  const Vec3 middle = card.place + f.right * mx + f.up * my;
  const double to_sheet = length(middle - at), to_lamp = length(light.place - at),
               behind = side_seen(light, middle) * std::min(1.0, to_sheet / std::max(1e-9, to_lamp));
  return {middle, std::min(std::hypot(own, behind), std::min(card.width, card.height)), {}};
}

}  // namespace

Shining shining_on(const Vec3& at, const Light& light, const Setup& setup, const Shot& shot, double set_time) {
  std::optional<Card> sheet;
  double nearest = 1.0;
  for (const Card& steady : setup.cards) {
    if (steady.material.kind != MaterialKind::translucent || steady.material.scatters()) continue;
    const Card card = card_at(steady, shot, set_time);
    if (const auto share = crossing(card, at, light.place); share && *share < nearest)
      nearest = *share, sheet = card;
  }
  if (!sheet) return {light.place, side_seen(light, at), {}};
  Shining shining = of_sheet(*sheet, light, at);
  shining.through = name_or(sheet->name, sheet->id);
  return shining;
}

std::optional<SoftEdge> soft_edge(const Project& project, const Shot& shot, const Setup& setup, const Light& light,
                                  double set_time) {
  const Vec3 foot =
      shot.products.empty() ? Vec3{} : product_at(project, shot, shot.products.front(), set_time).place;
  const Vec3 tip = foot + Vec3{0, fingertip, 0};
  SoftEdge edge{shining_on(tip, light, setup, shot, set_time), 0, 0, 0};
  const Vec3 to = edge.shining.place - tip;
  edge.distance = length(to);
  edge.elevation_deg = degrees(std::asin(std::clamp(to.y / std::max(1e-9, edge.distance), -1.0, 1.0)));
  const auto told = shadow_edge({.size_along = 0.0,
                                 .size_across = edge.shining.side,
                                 .source_distance = edge.distance,
                                 .elevation_deg = edge.elevation_deg,
                                 .gap = fingertip});
  if (!told) return std::nullopt;
  edge.across = told->across;
  return edge;
}

}  // namespace cinnabar
