#include "cinnabar/planning/room.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
constexpr double foot = 0.3, behind_camera = 0.6;
}

RoomNeeds room_needs(const Project& p) {
  RoomNeeds out;
  for (const auto& setup : p.setups) {
    double x0 = 0, x1 = 0, z0 = 0, z1 = 0, top = 0, watts = 0;
    bool used = false;
    const auto reach = [&](const Vec3& v, double room) {
      x0 = std::min(x0, v.x - room), x1 = std::max(x1, v.x + room);
      z0 = std::min(z0, v.z - room), z1 = std::max(z1, v.z + room);
      top = std::max(top, v.y);
    };
    for (const auto& shot : p.shots)
      if (shot->setup == setup->id) {
        used = true;
        for (int k = 0; k <= 8; ++k) {
          const double t = shot->set_time() * k / 8;
          for (const Light& l : setup->lights)
            if (shot->track(Tracked::light_place, l.id)) reach(light_at(l, *shot, t).place, foot);
          if (!shot->camera) continue;
          const CameraPose pose = camera_at(*shot, t);
          reach(pose.place - Vec3{pose.frame.ahead.x, 0, pose.frame.ahead.z} * behind_camera, 0.0);
        }
      }
    if (!used) continue;
    if (setup->surface)
      reach({setup->surface->width / 2, 0, setup->surface->depth / 2}, 0),
          reach({-setup->surface->width / 2, 0, -setup->surface->depth / 2}, 0);
    for (const Light& l : setup->lights) {
      if (l.window) continue;  // in the room's own wall
      reach(l.place, foot);
      top = std::max(top, l.place.y + std::max(l.height, 2 * l.radius) / 2);
      if (const LightKit* kit = by_id(p.light_kits, l.kit); kit && l.on) watts += kit->watts.value_or(0);
    }
    for (const Card& c : setup->cards) reach(c.place, foot), top = std::max(top, c.place.y + c.height / 2);
    if (const Backdrop& b = setup->backdrop; b.kind != BackdropKind::none) {
      reach({b.width / 2, b.low + b.height, -b.distance}, 0);
      reach({-b.width / 2, 0, -b.distance - foot}, 0);
    }
    if (x1 - x0 > out.width) out.width = x1 - x0, out.widest = setup->id;
    if (z1 - z0 > out.depth) out.depth = z1 - z0, out.widest = setup->id;
    if (const double high = top - setup->room.place.y; high > out.height)
      out.height = high, out.highest = setup->id;
    if (watts > out.watts) out.watts = watts, out.heaviest = setup->id;
  }
  return out;
}

std::vector<std::string> room_faults(const Project& p, const RoomNeeds& n) {
  std::vector<std::string> list;
  const Units units = p.units;
  const Means& m = p.means;
  // The room may be used either way round.
  if (m.room_width && m.room_depth) {
    const double short_by = std::min(std::max(n.width - *m.room_width, n.depth - *m.room_depth),
                                     std::max(n.depth - *m.room_width, n.width - *m.room_depth));
    if (short_by > 1e-9)
      list.push_back(said("The room is {} too small for set-up {}.", length_text(short_by, units), n.widest));
  }
  if (m.room_height && n.height > *m.room_height + 1e-9)
    list.push_back(
        said("The room is {} too low for set-up {}.", length_text(n.height - *m.room_height, units), n.highest));
  const double most = 0.8 * p.breaker_amps * p.mains_volts * std::max(1, m.circuits);
  if (n.watts > most + 1e-9)
    list.push_back(said("Set-up {} draws {} W; {} {} {} W for long.", n.heaviest, number_text(n.watts, 5),
                        std::max(1, m.circuits), m.circuits > 1 ? "circuits carry" : "circuit carries",
                        number_text(most, 5)));
  return list;
}

}  // namespace cinnabar
