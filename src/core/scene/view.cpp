#include "cinnabar/scene/view.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <random>

#include "cinnabar/project/model/ranges.h"
#include "cinnabar/scene/crop.h"

namespace cinnabar {

DeliveredFrame delivered_frame(const Deliverable& d, const ShotOptics& o) {
  const double shape = static_cast<double>(d.width) / d.height;
  const double wide = o.turned ? o.sensor_height : o.sensor_width,
               high = o.turned ? o.sensor_width : o.sensor_height;
  const double across = std::min(wide, high * shape);
  return {across, across / shape};
}

double kept_share(const Shot& shot, const DeliveredFrame& frame, const ShotOptics& optics) {
  double kept = shot.crop_share;
  if (const KeyedTrack* crop = shot.track(Tracked::crop))
    for (const Vec3& at : crop->places)
      kept = std::min(
          kept, std::max(at.z, 0.01) * optics.sensor_width / (optics.turned == 0 ? frame.across : frame.upright));
  return kept;
}

ShotOptics shot_optics(const Project& project, const Shot& shot) {
  ShotOptics o = shot_optics(project, shot.camera.value_or(ShotCamera{}), shot.crop_share);
  if (!shot.track(Tracked::crop)) return o;
  std::optional<double> finest;
  for (const Deliverable& d : project.deliverables) {
    const DeliveredFrame frame = delivered_frame(d, o);
    const double pitch = frame.across * kept_share(shot, frame, o) / d.width;
    finest = std::min(finest.value_or(pitch), pitch);
  }
  o.delivered_pitch = finest.value_or(o.pitch);
  return o;
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

namespace {

/// What a track holds at a moment, where there is one.
double held(const Shot& shot, Tracked what, double t, double otherwise, std::string_view id = {}) {
  const KeyedTrack* track = shot.track(what, id);
  return track && !track->keys.empty() ? track->at(t) : otherwise;
}
Vec3 held(const Shot& shot, Tracked what, double t, const Vec3& otherwise, std::string_view id = {}) {
  const KeyedTrack* track = shot.track(what, id);
  return track ? track->place_at(t, otherwise) : otherwise;
}

constexpr std::size_t shake_waves = 32;
/// Waves of equal weight that stand for the spectrum (1 + x^2)^-2, x = f / corner: the frequencies between the
/// quantiles of its integral, atan x + x / (1 + x^2), each the root of the mean of its squares, so that variance
/// and the variance of the rate come out exactly.
const std::array<double, shake_waves>& shake_frequencies() {
  static const std::array<double, shake_waves> all = [] {
    const auto below = [](double x) { return 2.0 / pi * (std::atan(x) + x / (1.0 + x * x)); };
    const auto squares = [](double x) { return 2.0 / pi * (std::atan(x) - x / (1.0 + x * x)); };
    std::array<double, shake_waves> list{};
    double from = 0.0;
    for (std::size_t i = 0; i < shake_waves; ++i) {
      double low = 0.0, high = 1e3;
      const double wanted = static_cast<double>(i + 1) / shake_waves;
      for (int k = 0; k < 80; ++k) (below(0.5 * (low + high)) < wanted ? low : high) = 0.5 * (low + high);
      const bool last = i + 1 == shake_waves;
      list[i] = std::sqrt(shake_waves * ((last ? 1.0 : squares(high)) - squares(from)));
      from = high;
    }
    return list;
  }();
  return all;
}

}  // namespace

ShakeTurn shake_at(const CameraShake& shake, double t) {
  if (shake.rms_deg <= 0.0) return {0.0, 0.0};
  std::minstd_rand random(static_cast<std::uint32_t>(shake.seed) + 1);
  random.discard(8);  // seeds that are neighbours begin alike
  const double weight = shake.rms_deg * std::sqrt(2.0 / shake_waves);
  ShakeTurn turn{0.0, 0.0};
  for (const double x : shake_frequencies())
    for (double* to : {&turn.across, &turn.up}) {
      const double phase = 2.0 * pi * static_cast<double>(random()) / static_cast<double>(std::minstd_rand::max());
      *to += weight * std::cos(2.0 * pi * x * shake.corner_hz * t + phase);
    }
  return turn;
}

bool camera_moves(const Shot& shot) {
  return (shot.camera && shot.camera->shake && shot.camera->shake->rms_deg > 0.0) ||
         std::any_of(shot.tracks.begin(), shot.tracks.end(), [](const KeyedTrack& track) {
           return moved_by(track.target) == TrackedThing::camera &&
                  !is_target(track.target, Tracked::camera_focus);
         });
}

bool products_move(const Shot& shot) {
  return std::any_of(shot.tracks.begin(), shot.tracks.end(), [](const KeyedTrack& track) {
    return is_target(track.target, Tracked::turntable) || moved_by(track.target) == TrackedThing::product;
  });
}

CameraPose camera_at(const Shot& shot, double t) {
  const ShotCamera camera = shot.camera.value_or(ShotCamera{});
  const Vec3 place = held(shot, Tracked::camera_place, t, camera.place),
             aim = held(shot, Tracked::camera_aim, t, camera.aim);
  CameraPose pose{place, facing(place, aim, held(shot, Tracked::camera_roll, t, camera.roll_deg)),
                  held(shot, Tracked::camera_focal, t, camera.focal),
                  held(shot, Tracked::camera_focus, t, camera.focus)};
  if (const KeyedTrack* slide = shot.track(Tracked::camera_slide)) {
    const Vec3 axis = unit(camera.slide_axis.value_or(Vec3{1, 0, 0}));
    pose.place += axis * slide->at(t);
  }
  // Pan about the vertical (positive to the right), then tilt about the camera's own right (positive upward).
  const ShakeTurn shaken = camera.shake ? shake_at(*camera.shake, t) : ShakeTurn{0.0, 0.0};
  if (const double pan = held(shot, Tracked::camera_pan, t, 0.0) + shaken.across; pan != 0.0)
    for (Vec3* v : {&pose.frame.right, &pose.frame.up, &pose.frame.ahead}) *v = turned(*v, -pan);
  if (const double tilt = held(shot, Tracked::camera_tilt, t, 0.0) + shaken.up; tilt != 0.0) {
    Vec3 level = cross(pose.frame.ahead, Vec3{0, 1, 0});
    level = length(level) < 1e-9 ? pose.frame.right : unit(level);
    for (Vec3* v : {&pose.frame.right, &pose.frame.up, &pose.frame.ahead}) *v = rotated(*v, level, radians(tilt));
  }
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
bool said_on_turntable(const Project& project, const ShotProduct& p) {
  if (p.on.empty()) return false;
  const Support* support = by_id(project.supports, p.on);
  return support && support->turns();
}
}  // namespace

bool on_turntable(const Project& project, const Shot& shot, const ShotProduct& product) {
  return said_on_turntable(project, product) ||
         std::none_of(shot.products.begin(), shot.products.end(),
                      [&](const ShotProduct& p) { return said_on_turntable(project, p); });
}

ProductPose product_at(const Project& project, const Shot& shot, const ShotProduct& product, double t) {
  ProductPose pose{product.place, product.turn_deg};
  if (shot.tracks.empty()) return pose;
  if (const KeyedTrack* table = shot.track(Tracked::turntable)) {
    if (on_turntable(project, shot, product)) {
      const double angle = table->at(t);
      pose = {turned(pose.place, angle), pose.turn_deg + angle};
    }
  }
  const std::string& own = product.product;
  pose.place = held(shot, Tracked::product_place, t, pose.place, own);
  pose.turn_deg = held(shot, Tracked::product_turn, t, pose.turn_deg, own);
  pose.tilt_deg = held(shot, Tracked::product_tilt, t, pose.tilt_deg, own);
  return pose;
}

Light light_at(const Light& light, const Shot& shot, double t) {
  Light moved = light;
  if (shot.tracks.empty()) return moved;
  const std::string& own = light.id;
  const double turn = held(shot, Tracked::light_turn, t, 0.0, own);
  moved.place = turned(held(shot, Tracked::light_place, t, light.place, own), turn);
  moved.aim = turned(held(shot, Tracked::light_aim, t, light.aim, own), turn);
  moved.dimmer = std::clamp(held(shot, Tracked::light_dimmer, t, light.dimmer, own), 0.0, 1.0);
  if (const KeyedTrack* doors = moved.doors ? shot.track(Tracked::light_doors, own) : nullptr)
    for (double* leaf :
         {&moved.doors->top_deg, &moved.doors->bottom_deg, &moved.doors->left_deg, &moved.doors->right_deg})
      *leaf = std::clamp(doors->at(t), leaf_range.low, leaf_range.high);
  return moved;
}

std::optional<Pin> pin_at(const Project& project, const Shot& shot, const Pin& pin, double set_time) {
  if (pin.with.empty()) return pin;
  for (const ShotProduct& placed : shot.products) {
    if (placed.product != pin.with) continue;
    const ProductPose pose = product_at(project, shot, placed, set_time);
    Pin now = pin;
    now.at = pose.world(pin.at), now.normal = pose.direction(pin.normal);
    return now;
  }
  return std::nullopt;
}

Card card_at(const Card& card, const Shot& shot, double t) {
  Card moved = card;
  if (shot.tracks.empty()) return moved;
  const std::string& own = card.id;
  moved.place = held(shot, Tracked::card_place, t, card.place, own);
  if (const KeyedTrack* turn = shot.track(Tracked::card_turn, own))
    moved.aim = moved.place + turned(moved.aim - moved.place, turn->at(t));
  return moved;
}

Setup lights_and_cards_at(Setup setup, const Shot& shot, double t) {
  for (Light& light : setup.lights) light = light_at(light, shot, t);
  for (Card& card : setup.cards) card = card_at(card, shot, t);
  return setup;
}

Backdrop backdrop_at(const Backdrop& backdrop, const Shot& shot, double t) {
  Backdrop moved = backdrop;
  if (!backdrop_moves(shot)) return moved;
  moved.moved = held(shot, Tracked::backdrop_place, t, backdrop.foot()) - backdrop.foot();
  moved.tilt_deg = held(shot, Tracked::backdrop_tilt, t, backdrop.tilt_deg);
  return moved;
}

bool backdrop_moves(const Shot& shot) {
  return shot.track(Tracked::backdrop_place) || shot.track(Tracked::backdrop_tilt);
}

std::optional<Vec3> crop_at(const Shot& shot, double t) {
  const KeyedTrack* crop = shot.track(Tracked::crop);
  if (!crop || crop->places.empty()) return std::nullopt;
  return crop->place_at(t);
}

}  // namespace cinnabar
