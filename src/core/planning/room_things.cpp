#include "cinnabar/planning/room_things.h"

#include <fmt/format.h>

#include <algorithm>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

std::string room_path(const OnSet& on) { return fmt::format("/setups/{}/room", on.setup_index()); }
Json room_now(const OnSet& on) { return value_at(on.document, room_path(on)).value_or(Json::object()); }
constexpr SetThing the_room{SetThing::Kind::room, 0};

}  // namespace

std::optional<SetEdit> room_switched(const OnSet& on) {
  const Setup* setup = on.setup();
  if (!setup) return {};
  Json room = room_now(on);
  if (setup->room.has_walls()) {
    for (const char* key : {"width", "depth", "height", "windows"}) room.erase(key);
    return SetEdit{{{room_path(on), room}}, said("Walls taken away"), {SetThing::Kind::camera, 0}};
  }
  const Means& means = on.project.means;
  room.update({{"width", means.room_width.value_or(4.0)},
               {"depth", means.room_depth.value_or(5.0)},
               {"height", means.room_height.value_or(2.5)}});
  const Units units = on.project.units;
  return SetEdit{
      {{room_path(on), room}},
      said("Walls round the set, {} by {}", length_text(room["width"], units), length_text(room["depth"], units)),
      the_room};
}

std::string window_called(RoomWall wall) {
  switch (wall) {
    case RoomWall::left:
      return said("Left window");
    case RoomWall::right:
      return said("Right window");
    case RoomWall::front:
      return said("Front window");
    case RoomWall::back:
      return said("Back window");
    case RoomWall::ceiling:
      break;
  }
  return said("Skylight");
}

std::optional<SetEdit> window_added(const OnSet& on, RoomWall wall) {
  const Setup* setup = on.setup();
  if (!setup || !setup->room.has_walls()) return {};
  Json windows = room_now(on).value("windows", Json::array());
  const std::string name = window_called(wall);
  Json one{{"id", fresh_id(windows, wall == RoomWall::ceiling ? "skylight" : "window")},
           {"name", name},
           {"wall", wall_names()[static_cast<std::size_t>(wall)]},
           {"along", 0.0},
           {"low", wall == RoomWall::ceiling ? 0.0 : 0.9},
           {"width", 1.2},
           {"height", wall == RoomWall::ceiling ? 0.8 : 1.4},
           {"transmittance", 0.8}};
  windows.push_back(std::move(one));
  // Its light stands after the set-up's own and those of the windows before it; a beam may stand between.
  const std::size_t last = setup->lights.size();
  return SetEdit{{{room_path(on) + "/windows", windows}}, said("{} let in", name), {SetThing::Kind::light, last}};
}

std::optional<SetEdit> sky_set(const OnSet& on, SkyKind sky) {
  const Setup* setup = on.setup();
  if (!setup || setup->room.windows.empty() || setup->room.sky == sky) return {};
  const std::string title = sky == SkyKind::clear    ? said("Clear sky over the windows")
                            : sky == SkyKind::partly ? said("Partly clouded sky over the windows")
                                                     : said("Overcast sky over the windows");
  return SetEdit{{{room_path(on) + "/sky", sky_names()[static_cast<std::size_t>(sky)]}}, title, the_room};
}

std::optional<SetEdit> all_dark(const OnSet& on) {
  const Setup* setup = on.setup();
  if (!setup) return {};
  SetEdit out{{}, said("All lights off"), {SetThing::Kind::light, 0}};
  for (std::size_t l = 0; l < setup->lights.size(); ++l)
    if (setup->lights[l].on && !setup->lights[l].beam)
      out.values.emplace_back(pointer_of(on, {SetThing::Kind::light, l}) + "/on", false);
  return out.values.empty() ? std::nullopt : std::optional(std::move(out));
}

std::optional<SetEdit> next_turned_on(const OnSet& on) {
  const Setup* setup = on.setup();
  if (!setup) return {};
  for (std::size_t l = 0; l < setup->lights.size(); ++l) {
    const Light& light = setup->lights[l];
    if (light.on || light.beam) continue;
    const SetThing thing{SetThing::Kind::light, l};
    const std::string title = !light.meant_for ? said("{} on", light.name)
                              : *light.meant_for == MeantFor::backdrop
                                  ? said("{} on, for the backdrop", light.name)
                                  : said("{} on, for the product", light.name);
    return SetEdit{{{pointer_of(on, thing) + "/on", true}}, title, thing};
  }
  return {};
}

const std::vector<GelKind>& gel_kinds() {
  static const std::vector<GelKind> all{
      {"red", said("Red gel"), {0.78, 0.06, 0.04}},     {"amber", said("Amber gel"), {0.9, 0.45, 0.08}},
      {"green", said("Green gel"), {0.12, 0.55, 0.14}}, {"teal", said("Teal gel"), {0.08, 0.42, 0.46}},
      {"blue", said("Blue gel"), {0.06, 0.14, 0.65}},   {"magenta", said("Magenta gel"), {0.65, 0.1, 0.5}}};
  return all;
}

std::optional<SetEdit> gel_put(const OnSet& on, const SetThing& thing, const std::string& gel) {
  const Setup* setup = on.setup();
  if (thing.kind != SetThing::Kind::light || !setup || thing.index >= setup->lights.size()) return {};
  const Light& light = setup->lights[thing.index];
  if (light.window) return {};
  const std::string pointer = pointer_of(on, thing) + "/gel_bands", curve = pointer_of(on, thing) + "/gel_curve";
  if (gel.empty()) {
    if (!light.gel_bands) return {};
    SetEdit off{{}, said("Gel off {}", light.name), thing};
    for (const std::string& member : {pointer, curve})
      if (value_at(on.document, member)) off.values.emplace_back(member, std::nullopt);
    return off;
  }
  const auto& kinds = gel_kinds();
  const auto kind = std::find_if(kinds.begin(), kinds.end(), [&](const GelKind& one) { return one.id == gel; });
  if (kind == kinds.end()) return {};
  const Json bands{kind->bands.x, kind->bands.y, kind->bands.z};
  if (light.gel_curve.empty() && value_at(on.document, pointer) == bands) return {};
  SetEdit edit{{{pointer, bands}}, said("{} on {}", kind->name, light.name), thing};
  if (!light.gel_curve.empty()) edit.values.emplace_back(curve, std::nullopt);
  return edit;
}

}  // namespace cinnabar
