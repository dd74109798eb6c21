// A shot's camera and products as functions of set time: pure geometry, no light.
#pragma once
#include <optional>

#include "cinnabar/base/vec.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// What the camera's mode and lens make of the sensor. Metres, seconds; frame rate per second.
struct ShotOptics {
  double sensor_width, sensor_height;  ///< the used part
  int width, height;                   ///< recorded pixels
  double pitch;                        ///< recorded pixel on the sensor
  double delivered_pitch;              ///< delivered pixel on the sensor
  double rate, readout;
  double pupil_ratio;
  double transmission;                    ///< of the lens
  std::optional<double> stops_over_grey;  ///< clipping over the exposure's own grey; left out: ISO 12232, 78 / S
  int turned;  ///< camera on its side: 1 rolled left (its right is up), -1 rolled right; 0 upright
  double iso_low, iso_high, read_noise_e, full_well_e;
  double f_number_low, f_number_high, focal_low, focal_high;
  bool mode_known;  ///< the kit has this camera and mode
};

/// Reads mode and lens from the kit; without them a full-frame 1920 x 1080 at the timeline's rate stands in.
/// `crop_share`: what a crop move in the edit keeps at the least of a delivered frame's width.
[[nodiscard]] ShotOptics shot_optics(const Project& project, const ShotCamera& camera, double crop_share = 1.0);
/// A shot's, with what its crop keeps at the least; of a camera's standing in where it has none.
[[nodiscard]] ShotOptics shot_optics(const Project& project, const Shot& shot);

/// A part of the sensor, in metres: `across` is how wide a deliverable's frame is as it is looked at, `upright`
/// how high. With a camera on its side the recording's width is the delivered frame's height.
struct DeliveredFrame {
  double across, upright;
};
/// The largest frame of a deliverable's shape in the recording.
[[nodiscard]] DeliveredFrame delivered_frame(const Deliverable& deliverable, const ShotOptics& optics);

/// The camera at one moment. `focal` may be another than the shot's (the widest lens of a set-up).
struct CameraPose {
  Vec3 place;
  Facing frame;
  double focal, focus;

  /// From the lens to the sensor when focused at `focus`.
  [[nodiscard]] double image_distance() const { return focal * focus / (focus - focal); }
  [[nodiscard]] double magnification() const { return focal / (focus - focal); }
  /// From the sensor's mark to the plane in focus, as a lens's ring counts it; principal planes taken as one.
  [[nodiscard]] double from_sensor() const { return focus + image_distance(); }
  /// Distance of a point along the optical axis.
  [[nodiscard]] double depth(const Vec3& world) const { return dot(world - place, frame.ahead); }
  /// The same with a lens of another focal length, focused as near as it goes where it does not reach.
  [[nodiscard]] CameraPose with_focal(double metres) const {
    CameraPose other = *this;
    other.focal = metres;
    other.focus = std::max(focus, metres * 1.0001);
    return other;
  }
  /// From the lens through a place of the frame (shares from the top left), unit.
  [[nodiscard]] Vec3 toward(const ShotOptics& optics, double x, double y) const {
    return unit(frame.right * ((x - 0.5) * optics.sensor_width) + frame.up * ((0.5 - y) * optics.sensor_height) +
                frame.ahead * image_distance());
  }
};

/// Tracks of place, aim, roll and focal length stand for the camera's own; slide, pan, tilt and the shake of a
/// hand are added.
[[nodiscard]] CameraPose camera_at(const Shot& shot, double set_time);
/// How far a hand's shake turns a camera at a set time, in degrees about the vertical and upward: a stationary
/// process whose spectrum goes by (1 + (f / corner)^2)^-2, the same for the same seed.
struct ShakeTurn {
  double across, up;
};
[[nodiscard]] ShakeTurn shake_at(const CameraShake& shake, double set_time);
/// Whether the camera's place, direction or focal length change over the shot.
[[nodiscard]] bool camera_moves(const Shot& shot);
/// Whether a product of the shot has a track, or stands on what turns.
[[nodiscard]] bool products_move(const Shot& shot);

/// Where a point lands, in sensor metres from the middle: x to the right, y up. Nothing behind the lens.
struct ImagePoint {
  double x, y;
};
[[nodiscard]] std::optional<ImagePoint> image_of(const CameraPose& pose, const Vec3& world);

/// f-number for exposure at this focus, f(1 + m / pupil_ratio).
[[nodiscard]] double effective_f_number(const CameraPose& pose, double f_number, double pupil_ratio);

/// A product in its place at one moment: from its own coordinates to the floor's. It leans first, about its foot
/// with its top to its own right, and is then turned.
struct ProductPose {
  Vec3 place;
  double turn_deg;
  double tilt_deg = 0.0;
  [[nodiscard]] Vec3 direction(const Vec3& own) const { return turned(leant(own, tilt_deg), turn_deg); }
  [[nodiscard]] Vec3 world(const Vec3& own) const { return direction(own) + place; }
  /// And back: of a direction or a place of the world, what it is on the product.
  [[nodiscard]] Vec3 own_direction(const Vec3& at) const { return leant(turned(at, -turn_deg), -tilt_deg); }
  [[nodiscard]] Vec3 own(const Vec3& at) const { return own_direction(at - place); }

 private:
  static Vec3 leant(const Vec3& v, double deg) { return deg == 0.0 ? v : rotated(v, {0, 0, 1}, radians(-deg)); }
};
/// Whether a shot's turntable carries a product: one that is said to stand on one, and where none is, all.
[[nodiscard]] bool on_turntable(const Project& project, const Shot& shot, const ShotProduct& product);
[[nodiscard]] ProductPose product_at(const Project& project, const Shot& shot, const ShotProduct& product,
                                     double set_time);

/// A light at one moment: where its tracks have it, then its turn track moves place and aim about the vertical
/// through the origin.
[[nodiscard]] Light light_at(const Light& light, const Shot& shot, double set_time);
/// A card at one moment: it goes on facing its aim.
[[nodiscard]] Card card_at(const Card& card, const Shot& shot, double set_time);
/// A set-up's lights and cards at one moment.
[[nodiscard]] Setup lights_and_cards_at(Setup setup, const Shot& shot, double set_time);
/// A pin at one moment, with the product that carries it; nothing where the shot has not that product.
[[nodiscard]] std::optional<Pin> pin_at(const Project& project, const Shot& shot, const Pin& pin, double set_time);
/// A backdrop at one moment: pulled, raised or lowered as one piece, leant about its foot.
[[nodiscard]] Backdrop backdrop_at(const Backdrop& backdrop, const Shot& shot, double set_time);
/// Whether tracks move the shot's backdrop.
[[nodiscard]] bool backdrop_moves(const Shot& shot);
/// What is kept of the recorded frame in the edit at one moment: left, top and width as shares of it. Nothing
/// without a track.
[[nodiscard]] std::optional<Vec3> crop_at(const Shot& shot, double set_time);

}  // namespace cinnabar
