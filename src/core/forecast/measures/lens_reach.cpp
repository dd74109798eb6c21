#include "cinnabar/forecast/measures/lens_reach.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/forecast/measures/set_edges_seen.h"

namespace cinnabar {

std::vector<LensReach> lens_reaches(const Project& project, const Shot& shot, double set_time) {
  std::vector<LensReach> list;
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup || !shot.camera) return list;
  const auto add = [&list](double focal, const std::string& name, bool in_use) {
    const auto same = std::find_if(list.begin(), list.end(), [focal](const LensReach& one) {
      return std::abs(one.focal - focal) < 0.005 * focal;
    });
    if (same == list.end()) {
      list.push_back({.focal = focal, .name = name, .in_use = in_use});
      return;
    }
    same->in_use = same->in_use || in_use;
    if (same->name.empty()) same->name = name;
  };
  for (const auto& other : project.shots)
    if (other->setup == shot.setup && other->camera) add(other->camera->focal, {}, true);
  for (const auto& lens : project.lenses) {
    add(lens->focal_low, lens->name, false);
    add(lens->focal_high, lens->name, false);
  }
  std::stable_sort(list.begin(), list.end(),
                   [](const LensReach& a, const LensReach& b) { return a.focal < b.focal; });
  const ShotOptics optics = shot_optics(project, shot);
  const SetAlone set(*setup, backdrop_at(setup->backdrop, shot, set_time));
  const CameraPose here = camera_at(shot, set_time);
  for (LensReach& one : list) {
    const CameraPose pose = here.with_focal(one.focal);
    one.half_across = optics.sensor_width / 2 / pose.image_distance();
    one.half_up = optics.sensor_height / 2 / pose.image_distance();
    const auto seen = EdgeSearch(set, pose, optics).nearest();
    if (!seen) continue;
    one.edge = true;
    one.spare = seen->distance / optics.sensor_width;
    one.of_backdrop = seen->role == Role::backdrop;
    const auto image = image_of(pose, seen->at);
    if (!image) continue;
    const double x = 2 * image->x / optics.sensor_width, y = 2 * image->y / optics.sensor_height;
    one.side = std::abs(x) > std::abs(y) ? (x < 0 ? PictureSide::left : PictureSide::right)
                                         : (y < 0 ? PictureSide::bottom : PictureSide::top);
  }
  return list;
}

}  // namespace cinnabar
