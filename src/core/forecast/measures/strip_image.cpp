#include "cinnabar/forecast/measures/strip_image.h"

#include <algorithm>
#include <cmath>
#include <iterator>

#include "cinnabar/forecast/measures/sight_bodies.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {
namespace {

bool mirrors(const Material& m) {
  return !m.is_matte() && (m.kind != MaterialKind::translucent || m.scatters());  // wax and soap have a coat
}

std::vector<SightBody> bodies_of(const Project& project, const Shot& shot, const Setup& setup,
                                 const ShotProduct& but, double t) {
  std::vector<SightBody> bodies;
  for (std::size_t i = 0; i < setup.lights.size(); ++i) {
    const Light l = light_at(setup.lights[i], shot, t);
    bodies.push_back(sight_face(l, i));
    if (l.doors)
      for (const DoorLeaf& leaf : door_leaves(l)) bodies.push_back(sight_sheet(leaf[0], leaf[1], leaf[2]));
  }
  for (const Card& steady : setup.cards) {
    const Card card = card_at(steady, shot, t);
    const Facing f = facing(card.place, card.aim, card.roll_deg);
    bodies.push_back(
        {SightBody::Form::sheet, card.place, f.right, f.up, f.ahead, card.width / 2, card.height / 2});
  }
  for (const Gear& g : setup.gear) {
    SightBody body = sight_gear(g);
    if (g.form == GearForm::round) {  // its side and its top
      body.form = SightBody::Form::tube;
      const Vec3 top = g.place + Vec3{0, g.size.y, 0};
      bodies.push_back({SightBody::Form::disc, top, {1, 0, 0}, {0, 0, 1}, {0, 1, 0}, g.size.x / 2, g.size.x / 2});
    }
    bodies.push_back(body);
  }
  if (const auto& s = setup.surface)
    bodies.push_back({SightBody::Form::sheet, {}, {1, 0, 0}, {0, 0, 1}, {0, 1, 0}, s->width / 2, s->depth / 2});
  if (setup.backdrop.kind != BackdropKind::none) {
    const auto lines = backdrop_lines(setup, backdrop_at(setup.backdrop, shot, t));
    for (std::size_t i = 0; i + 1 < lines.size(); ++i)
      bodies.push_back(sight_sheet(lines[i].left, lines[i].right, lines[i + 1].right));
  }
  for (const ShotProduct& other : shot.products) {
    const Product* product = &other == &but ? nullptr : by_id(project.products, other.product);
    if (!product) continue;
    const auto [low, high] = height_span(*product);
    const Vec3 middle = product_at(project, shot, other, t).place + Vec3{0, (low + high) / 2, 0};
    bodies.push_back({SightBody::Form::tube,
                      middle,
                      {1, 0, 0},
                      {0, 1, 0},
                      {0, 0, 1},
                      widest_reach(*product),
                      (high - low) / 2});
  }
  return bodies;
}

/// Whether a line would end on the lit side of one of these with nothing else about.
bool meets_lit(const std::vector<SightBody>& strips, const SightLine& line) {
  return std::any_of(strips.begin(), strips.end(), [&](const SightBody& strip) {
    const auto met = strip.met(line);
    return met && met->lit;
  });
}

/// The strip on whose lit side a line ends, if on one.
std::optional<std::size_t> strip_met(const std::vector<SightBody>& bodies, const SightLine& line,
                                     const std::vector<bool>& strips) {
  const SightBody* first = nullptr;
  SightBody::Met nearest{1e300, false};
  for (const SightBody& body : bodies)
    if (const auto met = body.met(line); met && met->distance < nearest.distance) first = &body, nearest = *met;
  if (!first || !first->light || !nearest.lit || !strips[*first->light]) return std::nullopt;
  return first->light;
}

}  // namespace

std::optional<Straight> widest_straight(const Product& product) {
  std::optional<Straight> best;
  for (const Part& part : product.parts)
    for (std::size_t i = 0; part.turned_on_axis() && i + 1 < part.profile.size(); ++i) {
      const ProfilePoint &a = part.profile[i], &b = part.profile[i + 1];
      const double tall = b.height - a.height;
      if (!mirrors(part.material) || tall <= 0.0 || std::abs(a.radius - b.radius) > 0.02 * tall) continue;
      const double r = std::max(a.radius, b.radius);
      if (!best || r > best->radius + 1e-9) best = Straight{r, a.height, b.height};
    }
  return best;
}

bool is_strip(const Light& l) {
  if (!l.on || l.dimmer <= 0.0 || l.full_luminance() <= 0.0 || l.window) return false;
  if (l.shape == LightShape::rectangle) return l.height >= 2.0 * l.width - 1e-9;
  return l.shape == LightShape::tube && l.length >= 4.0 * l.radius - 1e-9;
}

std::optional<double> seen_at(double angle_deg, double distance, double radius) {
  const double a = radians(std::remainder(angle_deg, 360.0));
  if (distance * std::cos(a) < radius) return std::nullopt;
  const double away = std::sqrt(distance * distance + radius * radius - 2 * distance * radius * std::cos(a));
  return distance * std::sin(a) / away;
}

std::optional<StripImage> strip_image(const Project& project, const Shot& shot, const Setup& setup,
                                      const ShotProduct& placed, const Straight& side, double t) {
  std::vector<bool> strips;
  for (const Light& l : setup.lights) strips.push_back(is_strip(light_at(l, shot, t)));
  if (std::none_of(strips.begin(), strips.end(), [](bool yes) { return yes; })) return std::nullopt;
  const Vec3 middle = product_at(project, shot, placed, t).place + Vec3{0, (side.low + side.high) / 2, 0},
             eye = camera_at(shot, t).place, to = eye - middle;
  const double distance = std::hypot(to.x, to.z);
  if (distance <= side.radius * 1.0001) return std::nullopt;  // seen from straight above, no side is
  const Vec3 toward{to.x / distance, 0, to.z / distance}, right{toward.z, 0, -toward.x};
  const auto bodies = bodies_of(project, shot, setup, placed, t);
  std::vector<SightBody> shining;  // asked first: few lines end on one
  std::copy_if(bodies.begin(), bodies.end(), std::back_inserter(shining),
               [&](const SightBody& body) { return body.light && strips[*body.light]; });
  constexpr int places = 721;
  std::optional<StripImage> widest;
  std::optional<std::size_t> now;
  int began = 0;
  const auto share_of = [](double place) { return -1.0 + (2.0 * place + 1.0) / places; };
  const auto end_run = [&](int end) {
    const double percent = 100.0 * (end - began) / places;
    if (now && (!widest || percent > widest->width_percent))
      widest = StripImage{*now, share_of(began - 0.5), share_of(end - 0.5), percent};
  };
  for (int i = 0; i < places; ++i) {
    // In plan: the line of sight passes the axis at `aside`, and meets the side where it is nearest.
    const double aside = share_of(i) * side.radius, sine = aside / distance, cosine = std::sqrt(1.0 - sine * sine),
                 ahead = distance * cosine - std::sqrt(std::max(0.0, side.radius * side.radius - aside * aside));
    const Vec3 at = middle + toward * (distance - ahead * cosine) + right * (ahead * sine);
    const Vec3 out = unit(at - middle), sight = unit(at - eye), thrown = sight - out * (2.0 * dot(sight, out));
    const SightLine back{at + out * 1e-4, sight * -1.0}, on{at + out * 1e-4, thrown};
    std::optional<std::size_t> met;
    const auto hidden = [&] {
      return std::any_of(bodies.begin(), bodies.end(), [&](const SightBody& body) {
        const auto between = body.met(back);
        return between && between->distance < length(eye - at) - 1e-4;
      });
    };
    if (meets_lit(shining, on) && !hidden()) met = strip_met(bodies, on, strips);
    if (met != now) {
      end_run(i);
      now = met, began = i;
    }
  }
  end_run(places);
  return widest;
}

}  // namespace cinnabar
