#include "cinnabar/scene/view.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {

DeliveredFrame delivered_frame(const Deliverable& d, const ShotOptics& o) {
  const double shape = static_cast<double>(d.width) / d.height;
  const double wide = o.turned ? o.sensor_height : o.sensor_width,
               high = o.turned ? o.sensor_width : o.sensor_height;
  const double across = std::min(wide, high * shape);
  return {across, across / shape};
}

ShotOptics shot_optics(const Project& project, const Shot& shot) {
  return shot_optics(project, shot.camera.value_or(ShotCamera{}), shot.crop_share);
}

ShotOptics shot_optics(const Project& project, const ShotCamera& camera, double crop_share) {
  ShotOptics o{};
  const CameraBody stand_in;
  const CameraBody* body = by_id(project.cameras, camera.camera);
  const CameraMode* mode = nullptr;
  if (body)
    for (const CameraMode& m : body->modes)
      if (m.id == camera.mode) mode = &m;
  o.mode_known = mode != nullptr;
  if (!body) body = &stand_in;
  const double crop = mode ? mode->crop : 1.0;
  o.width = mode ? mode->width : 1920;
  o.height = mode ? mode->height : 1080;
  o.rate = mode ? mode->rate : project.timeline_rate;
  o.readout = mode ? mode->readout : 0.0;
  o.sensor_width = body->sensor_width / crop;
  o.pitch = o.sensor_width / o.width;
  o.sensor_height = o.pitch * o.height;
  o.stops_over_grey = mode ? mode->stops_over_grey : std::nullopt;
  const double roll = std::remainder(camera.roll_deg, 360.0);
  o.turned = std::abs(roll) <= 45.0 || std::abs(roll) >= 135.0 ? 0 : roll > 0 ? 1 : -1;
  std::optional<double> finest;
  for (const Deliverable& d : project.deliverables) {
    const double pitch = delivered_frame(d, o).across * crop_share / d.width;
    finest = std::min(finest.value_or(pitch), pitch);
  }
  o.delivered_pitch = finest.value_or(o.pitch);
  o.iso_low = body->iso_low, o.iso_high = body->iso_high;
  o.read_noise_e = body->noise_at(camera.iso), o.full_well_e = body->full_well_e;
  const LensSpec* lens = by_id(project.lenses, camera.lens);
  o.pupil_ratio = lens ? lens->pupil_ratio : 1.0;
  o.transmission = lens ? lens->transmission : 0.9;
  o.f_number_low = lens ? lens->f_number_low : std::min(1.4, camera.f_number);
  o.f_number_high = lens ? lens->f_number_high : std::max(22.0, camera.f_number);
  o.focal_low = lens ? lens->focal_low : camera.focal;
  o.focal_high = lens ? lens->focal_high : camera.focal;
  return o;
}

CameraPose camera_at(const Shot& shot, double t) {
  const ShotCamera camera = shot.camera.value_or(ShotCamera{});
  CameraPose pose{camera.place, facing(camera.place, camera.aim, camera.roll_deg), camera.focal, camera.focus};
  if (const KeyedTrack* slide = shot.track("camera.slide")) {
    const Vec3 axis = unit(camera.slide_axis.value_or(Vec3{1, 0, 0}));
    pose.place += axis * slide->at(t);
  }
  // Pan about the vertical (positive to the right), then tilt about the camera's own right (positive upward).
  if (const KeyedTrack* pan = shot.track("camera.pan"))
    for (Vec3* v : {&pose.frame.right, &pose.frame.up, &pose.frame.ahead}) *v = turned(*v, -pan->at(t));
  if (const KeyedTrack* tilt = shot.track("camera.tilt")) {
    Vec3 level = cross(pose.frame.ahead, Vec3{0, 1, 0});
    level = length(level) < 1e-9 ? pose.frame.right : unit(level);
    for (Vec3* v : {&pose.frame.right, &pose.frame.up, &pose.frame.ahead})
      *v = rotated(*v, level, radians(tilt->at(t)));
  }
  if (const KeyedTrack* focus = shot.track("camera.focus"); focus && !focus->keys.empty())
    pose.focus = focus->at(t);
  return pose.with_focal(pose.focal);
}

std::optional<ImagePoint> image_of(const CameraPose& pose, const Vec3& world) {
  const double depth = pose.depth(world);
  if (depth <= 1e-6) return std::nullopt;
  const Vec3 to = world - pose.place;
  const double scale = pose.image_distance() / depth;
  return ImagePoint{dot(to, pose.frame.right) * scale, dot(to, pose.frame.up) * scale};
}

double effective_f_number(const CameraPose& pose, double f_number, double pupil_ratio) {
  return f_number * (1.0 + pose.magnification() / pupil_ratio);
}

namespace {
bool on_turntable(const Project& project, const ShotProduct& p) {
  if (p.on.empty()) return false;
  const Support* support = by_id(project.supports, p.on);
  return support && (support->kind.empty() || support->kind == "turntable");
}
}  // namespace

ProductPose product_at(const Project& project, const Shot& shot, const ShotProduct& product, double t) {
  ProductPose pose{product.place, product.turn_deg};
  const KeyedTrack* table = shot.track("turntable");
  if (!table) return pose;
  // Where no product is said to stand on a turntable, the turning one carries them all.
  const bool some_on = std::any_of(shot.products.begin(), shot.products.end(),
                                   [&](const ShotProduct& p) { return on_turntable(project, p); });
  if (some_on && !on_turntable(project, product)) return pose;
  const double angle = table->at(t);
  return {turned(pose.place, angle), pose.turn_deg + angle};
}

Light light_at(const Light& light, const Shot& shot, double t) {
  Light moved = light;
  if (const KeyedTrack* turn = shot.track("light." + light.id + ".turn")) {
    moved.place = turned(light.place, turn->at(t));
    moved.aim = turned(light.aim, turn->at(t));
  }
  if (const KeyedTrack* dimmer = shot.track("light." + light.id + ".dimmer"); dimmer && !dimmer->keys.empty())
    moved.dimmer = std::clamp(dimmer->at(t), 0.0, 1.0);
  return moved;
}

}  // namespace cinnabar
