// The project's entities as plain values, read from a valid document. Metres, seconds, kelvin, lux, lumens; angles
// in degrees; rates in frames per second; colours linear BT.709. Absent members have the document's defaults.
#pragma once
#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/text.h"
#include "cinnabar/base/vec.h"
#include "cinnabar/color/gel_spectrum.h"
#include "cinnabar/color/picture.h"
#include "cinnabar/motion/clocks.h"
#include "cinnabar/motion/moves.h"
#include "cinnabar/photometry/distribution.h"
#include "cinnabar/photometry/front.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/model/house_rules.h"
#include "cinnabar/project/model/material.h"
#include "cinnabar/project/model/part_mesh.h"
#include "cinnabar/project/model/track_target.h"

namespace cinnabar {

/// A level section of a part: how wide it is to either side, and how deep.
struct ProfilePoint {
  double radius, height;     ///< radius: half its width
  double depth_share = 1.0;  ///< of its half depth, front to back, to the radius
  double shift = 0.0;        ///< of its middle, to the right

  [[nodiscard]] double depth() const { return radius * depth_share; }
};
enum class Section { round, box };
/// How a liquid's surface stands, in its product's own coordinates: level in the world, and the first mode of a
/// wave on it.
struct LiquidSurface {
  Vec3 up{0, 1, 0};   ///< away from the ground, unit
  double height = 0;  ///< of the level over the product's foot, along `up`
  Vec3 wave{};        ///< how much higher it stands at the wall on that side, level
  double radius = 0;  ///< of the wall there
  Vec3 dent{};        ///< over which place a half ball is open in it
  double dent_radius = 0;
};
struct Part {
  std::string id;
  std::vector<ProfilePoint> profile;  ///< of a mesh: its extent at even heights
  double wall = 0.0;                  ///< 0: solid, or a thin sheet where the profile is open
  Material material;
  Section section = Section::round;  ///< a circle or an ellipse, else a rectangle
  double corner = 0.0;               ///< radius of a box's upright edges
  double cavity = 0.0;               ///< of a liquid that is hit: radius of the half ball open in its surface
  std::optional<LiquidSurface> surface{};  ///< of a liquid that leans or has a wave; else it is flat across
  std::shared_ptr<const PartMesh> mesh;    ///< given by triangles
  bool fills = false;                      ///< between its heights it goes out to its vessel's inner side

  /// Alike from every side, so that turning it changes nothing but its label.
  [[nodiscard]] bool turned_on_axis() const;
};
struct Label {
  std::string part;
  double bearing_deg = 0, arc_deg = 90, low = 0, high = 0;
  std::string picture;  ///< blob
  std::optional<double> stroke;
  Material material{MaterialKind::paper, {0.8, 0.8, 0.8}};
  std::string foil;  ///< blob: where it is bright, foil is stamped on
  Material foil_material{MaterialKind::metal, {0.9, 0.75, 0.4}, 0.15};
  std::shared_ptr<const Picture> image{};  ///< the picture read; nothing where there is none
  std::shared_ptr<const Picture> stamp{};  ///< that of the foil
};
struct Feature {
  std::string id, name;
  Vec3 at;
  std::optional<double> detail;
  std::optional<double> size;  ///< height of its patch; left out ten times its detail
  bool read = false;

  [[nodiscard]] double patch() const { return size.value_or(10.0 * detail.value_or(0.001)); }
};
struct Product {
  std::string id, name;
  double mass = 0.0;
  std::vector<Part> parts;
  std::optional<Label> label;
  std::vector<Feature> features;
};

/// Whether a thing of the kit is there, and what it costs where it is not; every item of the kit says it.
struct Holding {
  bool owned = true;
  double count = 1;             ///< pieces
  std::optional<double> price;  ///< for one, in the project's money
  bool hired = false;           ///< the price is for the day
};

struct CameraMode {
  std::string id;
  int width = 1920, height = 1080;
  double rate = 24, crop = 1, readout = 0, megabits_per_s = 0;
  bool autofocus = true;
  std::optional<double> stops_over_grey;  ///< clipping over the exposure's own grey; left out: 78 / S
};
struct CameraBody {
  std::string id, name;
  double sensor_width = 0.036, sensor_height = 0.02025;
  std::vector<CameraMode> modes;
  double iso_low = 100, iso_high = 12800, read_noise_e = 3, full_well_e = 50000;
  std::optional<double> watts, mass;
  std::optional<double> width, height, depth;  ///< of the body, as it looks ahead
  Holding holding;
  std::vector<std::pair<double, double>> measured_noise;  ///< [ISO, electrons], rising ISO; empty: as read_noise_e

  /// Noise of the reading at an ISO: measured, between two ISOs straight in their logarithms and held outside, or
  /// the one figure there is.
  [[nodiscard]] double noise_at(double iso) const;
};
struct LensSpec {
  std::string id, name;
  double focal_low = 0.05, focal_high = 0.05, f_number_low = 1, f_number_high = 32, close_focus = 0,
         pupil_ratio = 1;
  std::optional<double> breathing;  ///< measured share of the field's width over the whole focus ring
  double transmission = 0.9;        ///< share of light that comes through: T-stop = f / sqrt(transmission)
  std::optional<double> greatest_magnification;
  /// The maker's nearest focus, from the sensor's mark; where the magnification is known `close_focus` follows.
  std::optional<double> close_focus_mark;
  std::optional<double> mass;
  Holding holding;
};
inline constexpr double hottest_filament = 3500;  ///< K, under which a hot lamp is tungsten; value from memory
struct LightKit {
  std::string id, name;
  std::optional<double> lumens;
  double kelvin_low = 1000, kelvin_high = 40000;
  std::optional<double> ripple;     ///< depth of its flicker; left out: not known
  std::optional<double> ripple_hz;  ///< left out: twice the mains
  std::optional<double> duty;       ///< share of the time that a lamp dimmed by switching is on
  double duv = 0;                   ///< how far its white is off the locus, CIE 1960; above 0 greener
  double warm_up_minutes = 0;       ///< until its light keeps still
  std::optional<double> watts;
  std::optional<LightFront> front;    ///< of the lamp itself: bare beads, a lens
  bool hot = false;                   ///< tungsten or discharge: burns, and must cool down
  std::string ies;                    ///< blob of a measured distribution
  std::optional<LightOutput> output;  ///< lumens and distribution, as given or derived
  Holding holding;
};
enum class SupportKind { turntable, slider, head, stand, arm, other };
struct Support {
  std::string id, name;
  std::optional<SupportKind> kind;
  std::optional<double> load, rpm_low, rpm_high;
  std::optional<double> travel, speed;  ///< of a slider
  std::optional<double> acceleration;   ///< m/s2; of turntables and heads degrees/s2
  std::optional<double> reach;          ///< of a stand or an arm: the highest its head stands over the surface
  std::optional<double> length;         ///< of an arm: how far level it holds its head from its foot
  std::optional<double> repeat;         ///< how far off it comes back: metres, of turntables and heads degrees
  std::optional<double> radius;         ///< of a turntable's plate
  /// Of a stepped motor: full steps a turn of it, microsteps of each, how far a turn takes it and its play;
  /// metres, of turntables and heads degrees. A turning axis without `turn_travel` goes round with its motor.
  std::optional<double> steps_per_turn, microsteps, turn_travel, backlash;
  std::optional<double> torque;  ///< N m
  Holding holding;

  [[nodiscard]] bool slides() const { return kind == SupportKind::slider; }
  /// What does not say what it is, is taken to turn.
  [[nodiscard]] bool turns() const { return kind.value_or(SupportKind::turntable) == SupportKind::turntable; }
  /// How far off it comes back: `repeat` where it is given, else what its steps and its play come to.
  [[nodiscard]] std::optional<double> comes_back_within() const;
};
/// What is drawn on while recording: card space, or a battery's charge.
struct Supply {
  std::string id, name;
  double amount = 0;  ///< gigabytes, or watt hours that can be used, of one piece
  Holding holding;
};

/// A film before a lens or a lamp that lets light of one direction through.
struct Polariser {
  double angle_deg = 0;  ///< of what it lets through, from the frame's or the face's upright, turned as a roll is
  double stops = 1.5;    ///< that it takes of what is not polarised (common practice, no source)
};
enum class LightShape { rectangle, disc, tube, bare, dome };
/// What stands before a light: softbox, octa, diffuser, grid, doors. What it leaves out stays the lamp's.
struct Modifier {
  std::string id, name;
  std::optional<LightShape> shape;  ///< rectangle or disc; left out: the lamp keeps its own face
  double width = 0, height = 0, radius = 0;
  double transmittance = 1;
  std::optional<double> grid_deg;
  std::optional<LightFront> front;
  bool doors = false;
  Holding holding;
};
/// A card or flag, a surface or a backdrop that is there to be set up. A surface's height is its depth.
struct CardStock {
  std::string id, name;
  double width = 0, height = 0;
  Material material;
  Holding holding;
};

/// What is used up by takes: paper towel, drink, blades, spray.
struct Consumable {
  std::string id, name, unit;
  double stock = 0;
  std::optional<double> shelf_minutes;  ///< good for so long once it is opened or poured
  Holding holding;                      ///< the price is for one unit
};

/// Four black leaves hinged at the edges of a rectangle's face, or of the square round a disc's.
struct Doors {
  double length = 0;
  /// Opened from straight ahead: 90 is folded flat beside the face, negative closes across the beam. Sides as seen
  /// looking along the aim.
  double top_deg = 90, bottom_deg = 90, left_deg = 90, right_deg = 90;
};
/// A lens, a tube and a gate are round; cloth and beads stand before a rectangle too.
[[nodiscard]] inline bool fits(FrontKind front, LightShape shape) {
  return shape == LightShape::disc ||
         (shape == LightShape::rectangle && (front == FrontKind::cloth || front == FrontKind::beads));
}
enum class MeantFor { product, backdrop };
struct Light {
  std::string id, name, kit;
  bool on = true;
  Vec3 place, aim;
  double roll_deg = 0;
  LightShape shape = LightShape::bare;
  double width = 0, height = 0, radius = 0, length = 0;
  double lumens = 0, transmittance = 1, dimmer = 1, kelvin = 5600, gel_mired = 0, gel_transmittance = 1;
  double scrim_stops = 0;  ///< what wire nets before it take, of all its light alike
  std::optional<double> grid_deg;
  std::optional<Doors> doors;
  std::optional<LightFront> front;
  std::shared_ptr<const FrontEmission> shines;  ///< as its front lets it; nothing: an even face
  std::optional<Vec3> gel_bands;  ///< shares of linear BT.709 red, green and blue that a coloured gel lets through
  std::vector<PassedAt> gel_curve{};                      ///< a gel by its spectrum; `gel_bands` follow from it
  std::optional<Polariser> film;                          ///< before it; upright is the face's own
  std::shared_ptr<const LightDistribution> distribution;  ///< of its kit, where nothing in front evens it out
  std::string modifier;                                   ///< of the kit, standing before it
  std::optional<MeantFor> meant_for;                      ///< left out: what its aim is nearer to
  double duv = 0;                                         ///< of its kit's white
  bool filament = false;                                  ///< of its kit: dimmed, it gets warmer
  bool colour_meant = false;                              ///< its colour is on purpose: no white that is off
  bool dressed = false;                                   ///< it may be seen: a practical lamp
  bool daylight = false;  ///< a window or the sky: nothing to be carried, switched or turned down
  /// The window of the room that it comes in by: worked out by date and hour, and in no list of lights. Its dimmer
  /// is the share that the curtain lets through.
  std::optional<std::size_t> window{};
  std::optional<Vec3> beam{};  ///< toward the sun, unit: light of its disc alone, through the face

  [[nodiscard]] double area() const;          ///< of the shining face, square metres
  [[nodiscard]] double white_kelvin() const;  ///< gel included, as it is dimmed
  [[nodiscard]] double candela() const;  ///< from far at its broadest, Lambert's, as it is dimmed; grid left out
  [[nodiscard]] double full_luminance()
      const;  ///< of the face at dimmer 1, gels included, grid and front left out
  [[nodiscard]] double gels_let_through() const;  ///< share of its light, scrims and a film before it counted
};
struct Card {
  std::string id, name;
  std::string kit;  ///< the sheet of the kit that it is
  Vec3 place, aim;
  double roll_deg = 0, width = 0, height = 0;
  Material material;
};
struct Surface {
  double width = 1, depth = 1;
  Material material;
  double sheet = 0;  ///< thickness of a clear sheet laid on it, its top at height 0; 0: none
  Material sheet_material{MaterialKind::glass};
  std::string kit{};  ///< the surface of the kit that it is
};
enum class BackdropKind { none, flat, sweep };
struct Backdrop {
  BackdropKind kind = BackdropKind::none;
  double distance = 1, width = 1, height = 1, low = 0, tilt_deg = 0, radius = 0.3;
  Material material{MaterialKind::cloth};
  double fold_depth = 0, fold_pitch = 0.15;  ///< of a hung cloth: from crest to hollow, and from crest to crest
  std::string kit{};                         ///< the backdrop of the kit that it is
  Vec3 moved{};                              ///< from there, by a track; in no document
  /// The middle of its foot.
  [[nodiscard]] Vec3 foot() const { return Vec3{0, low, -distance} + moved; }
};
enum class GearForm { box, round, ridge };
/// A body about the set whose foot's middle is its place: what is not of the picture, as a stand, a cable run, the
/// operator, and what is (`dressed`), as a pedestal, a block or an upturned glass that raises a product.
struct Gear {
  std::string id, name, kind;
  Vec3 place, size{0.1, 0.1, 0.1};  ///< wide, high, deep
  double turn_deg = 0;              ///< about the vertical
  GearForm form = GearForm::box;    ///< round: an ellipse wide and deep; ridge: half of one, deep and high
  double wall = 0;                  ///< of a round one that is open below, as an upturned glass; 0: solid
  Material material{MaterialKind::matte, {0.05, 0.05, 0.05}};
  bool dressed = false;  ///< may be seen
};
enum class RoomWall { left, right, front, back, ceiling };
/// A window of the room, in a wall whose middle is the room's own: `along` is to the camera's right in the front
/// and back walls and in the ceiling, toward the camera in the sides; `low` is its sill over the room's floor, in
/// the ceiling its middle toward the camera.
struct RoomWindow {
  std::string id, name;
  RoomWall wall = RoomWall::left;
  double along = 0, low = 0.9, width = 1, height = 1.2;
  double transmittance = 0.8;     ///< of its panes
  std::optional<double> curtain;  ///< share that it lets through, evenly scattered; left out: none hangs there
  bool on = true;                 ///< not blacked out
};
enum class SkyKind { clear, partly, overcast };
/// Walls, ceiling and floor about the set, where its measures are given.
struct Room {
  std::optional<double> north_deg, width, depth, height;
  double reflectance = 0.5;
  double ground = 0.2;      ///< reflectance of what lies outside
  Vec3 place{0, -0.75, 0};  ///< the middle of its floor
  SkyKind sky = SkyKind::clear;
  bool dressed = false;  ///< its walls may be seen
  std::vector<RoomWindow> windows;

  [[nodiscard]] bool has_walls() const { return width && depth && height; }
};
/// What a hand meter read.
struct MeteredLight {
  double illuminance_lx = 0;
  std::string at;  ///< when, as text
};
/// A place of the set at which light is metered, and where the meter faces.
struct Pin {
  std::string id, name;
  std::string with;  ///< the product that carries it along: `at` and `normal` are then in its own coordinates
  Vec3 at, normal{0, 1, 0};
  std::optional<MeteredLight> measured;
};
struct Setup {
  std::string id, name;
  std::string of;  ///< the set-up that it is a variation of
  std::optional<Surface> surface;
  Backdrop backdrop;
  double ambient_lx = 0, ambient_kelvin = 5600;
  std::vector<Light> lights;  ///< its own as listed, then what comes in by the room's windows
  std::vector<Card> cards;
  std::vector<Gear> gear;
  std::vector<Pin> pins;
  Room room;
  std::optional<double> north_deg;  ///< bearing of north on the floor: 0 toward the camera, growing to its right
  /// So many of its lights are listed; the rest come in by its windows and are moved by nobody.
  [[nodiscard]] std::size_t own_lights() const;
  HouseRules house_rules;  ///< where this set-up follows others than the project
};

struct ShotProduct {
  std::string product, on;
  Vec3 place;
  double turn_deg = 0;
};
/// Of a camera held by hand: turned about the vertical and up and down at random, each by `rms_deg`, with a
/// spectrum that falls off from `corner_hz`.
struct CameraShake {
  double rms_deg = 0, corner_hz = 1.5;
  int seed = 1;
};
struct ShotCamera {
  std::string camera, mode, lens;
  std::string on;  ///< the support it stands on
  double focal = 0.05;
  Vec3 place{0, 0.1, 1}, aim{0, 0.05, 0};
  double roll_deg = 0, focus = 1, f_number = 5.6, shutter_time = 0.02, iso = 100, nd_stops = 0, balance_k = 5600;
  std::optional<Vec3> slide_axis;
  std::optional<CameraShake> shake;
  std::optional<Polariser> polariser;
  std::array<std::optional<bool>, 4> locked;  ///< white, exposure, focus, stabiliser off
};
struct FacingNeed {
  double bearing_deg = 0, at = 0, lasting = 0;
};
/// What one take uses up.
struct Use {
  std::string consumable;
  double amount = 1;
};
/// When an effect's event is to be on screen: at a second of the shot, or on a beat of the spot, the first being
/// 0.
struct EffectNeed {
  std::string event;
  std::optional<double> screen, beat;
};
/// A practical effect of a shot: what is let go, where and when.
struct Effect {
  std::string id, name, kind;
  double at = 0;  ///< set second at which it is let go, or ready
  Vec3 place;
  std::string liquid;   ///< by name, for what is not measured of it
  std::string product;  ///< whose form what falls or is thrown has; none: a plain one
  std::map<std::string, std::vector<double>> measures;  ///< those given, by key
  std::optional<Material> material;                     ///< left out: the liquid's, or a plain one
  std::optional<EffectNeed> needs;
  std::vector<Use> uses;
  std::optional<double> supply;  ///< cubic metres of the liquid that are there
  int hands = 1;
  double reset_minutes = 0;
  double seed = 1;
  bool read = false;  ///< its cautions were
};

/// Pen strokes on a shot's card, as shares of the frame from its top left.
struct Sketch {
  std::vector<std::vector<std::pair<double, double>>> strokes;
  bool instead = false;  ///< shown instead of the predicted picture, else over it
};
/// Recorded before and after the action of each take, together (common practice, no source).
inline constexpr double lead_seconds = 10.0;

enum class ShotSize { wide, close, macro };
/// What the spot has a shot for.
enum class ShotRole { hero, detail, action, ending };
struct Shot {
  std::string id, name, setup;
  std::string sound, notes;
  std::optional<ShotSize> size;
  std::optional<ShotRole> role;  ///< left out: what its size and place say
  double screen_time = 1, target_stops = 0;
  std::vector<ShotProduct> products;
  std::optional<ShotCamera> camera;
  PlayClock clock;
  std::vector<KeyedTrack> tracks;
  std::optional<FacingNeed> facing;
  std::optional<double> slow, length, takes_planned;
  bool reversed = false;      ///< what is recorded last shows first; its clock knows
  std::optional<bool> loops;  ///< the film runs round; left out, a spin of whole turns is taken to
  double crop_share = 1;      ///< least share of the frame's width that a crop move in the edit keeps
  int keepers_wanted = 1;
  std::string move;                 ///< the ready move it was made by
  std::vector<std::string> plates;  ///< recordings that it is composed of, in words
  Sketch sketch;
  double reset_minutes = 0;      ///< between two takes, its effects' included
  double own_reset_minutes = 0;  ///< without them
  int hands = 1;                 ///< people that a take needs, who records included; as many as its effects ask
  std::vector<Use> uses;         ///< by one take, its effects' included
  std::vector<Effect> effects;
  std::string peak_light;             ///< the light that should be brightest as the label faces
  std::vector<std::string> features;  ///< promised here, "product/feature"
  HouseRules house_rules;             ///< where this shot follows others than its set-up

  [[nodiscard]] const KeyedTrack* track(std::string_view target) const;
  /// The track of what moves, of the thing with that id where there may be several.
  [[nodiscard]] const KeyedTrack* track(Tracked what, std::string_view of = {}) const;
  /// Set time at which recording ends: where its screen time is used up, or begins where it plays backward.
  [[nodiscard]] double set_time() const { return clock.set_at(clock.is_backward() ? 0.0 : screen_time); }
};

struct Words {
  double x = 0, y = 0, width = 0, height = 0, last_seconds = 0;
};
struct Deliverable {
  std::string id, name;
  int width = 1920, height = 1080;
  std::optional<Words> words;
  std::optional<double> shortest, longest;  ///< seconds
  std::optional<double> loudness;           ///< aimed at, LUFS
};
/// What there is to work with.
struct Means {
  std::optional<double> budget, room_width, room_depth, room_height;
  int hands = 1, circuits = 1;
};
struct Take {
  std::string id, shot, at, notes;
  int number = 1;
  bool kept = false;
  std::vector<std::string> reasons;
};
struct UserBand {
  bool has_low = false, has_high = false;
  std::optional<double> low, high;
  std::string reason;  ///< why this spot wants another band
};

/// Everything, each entity shared with the parse before when its JSON did not change.
struct Project {
  std::string name, mood;
  Units units = Units::metric;
  std::string date;                           ///< of the day, "2026-12-03"
  std::optional<double> hour;                 ///< of the first take, by the clock there
  std::optional<double> latitude, longitude;  ///< degrees, north and east
  std::optional<double> allowed_time, beats_per_minute, iso_limit;
  std::optional<double> cuts_on_beats;  ///< least share of the cuts
  double timeline_rate = 24, mains_hz = 50, mains_volts = 230, breaker_amps = 16;
  Means means;
  HouseRules house_rules;
  std::map<std::string, UserBand> bands;
  std::vector<Deliverable> deliverables;
  std::vector<std::shared_ptr<const Product>> products;
  std::vector<std::shared_ptr<const CameraBody>> cameras;
  std::vector<std::shared_ptr<const LensSpec>> lenses;
  std::vector<std::shared_ptr<const LightKit>> light_kits;
  std::vector<std::shared_ptr<const Support>> supports;
  std::vector<std::shared_ptr<const Supply>> media, batteries;
  std::vector<std::shared_ptr<const Consumable>> consumables;
  std::vector<std::shared_ptr<const Modifier>> modifiers;
  std::vector<std::shared_ptr<const CardStock>> card_stock, surface_stock, backdrop_stock;
  std::vector<std::shared_ptr<const Setup>> setups;
  std::vector<std::shared_ptr<const Shot>> shots;
  std::vector<std::shared_ptr<const Take>> takes;
  std::map<std::string, std::shared_ptr<const Blob>> blobs;
  std::vector<std::string> unreadable;  ///< pictures, meshes and measured lights that are damaged, in sentences

  /// The place of what the house chose among a rule's names, or the default's.
  [[nodiscard]] std::size_t chosen(HouseRule rule) const;
  /// Of what a shot follows: its own, its set-up's, the project's choice, or the default.
  [[nodiscard]] std::size_t chosen(HouseRule rule, const Shot& shot) const;
  /// The same as a value: `rule<DepthRule>(shot)`.
  template <class Rule>
  [[nodiscard]] Rule rule() const {
    return static_cast<Rule>(chosen(rule_of(Rule{})));
  }
  template <class Rule>
  [[nodiscard]] Rule rule(const Shot& shot) const {
    return static_cast<Rule>(chosen(rule_of(Rule{}), shot));
  }
  /// Start of a shot on screen: the screen times before it, in seconds.
  [[nodiscard]] double starts_at(std::size_t shot_index) const;
  [[nodiscard]] double screen_time() const;
};

/// The entity of that id in a list of shared entities, or nothing.
template <class T>
const T* by_id(const std::vector<std::shared_ptr<const T>>& list, std::string_view id) {
  for (const auto& item : list)
    if (item->id == id) return item.get();
  return nullptr;
}

/// How a light pulses: depth of its swing, and pulses a second (twice the mains where its kit says nothing else).
struct LampRipple {
  double depth, hz;
  std::optional<double> duty{};  ///< of a lamp that is switched on and off: it swings by all it has
};
/// Share of such a lamp's light by which an exposure of `time` may differ from the mean.
[[nodiscard]] double left_of_ripple(const LampRipple& lamp, double time);
/// As its kit says, the sky without any; nothing where the kit does not tell.
[[nodiscard]] std::optional<LampRipple> lamp_ripple(const Project& project, const Light& light);

/// Reads documents into projects, keeping what did not change since the document before. One per session.
class ProjectReader {
 public:
  /// `document` must be valid.
  [[nodiscard]] Project read(const Document& document);

 private:
  struct Cache;
  std::shared_ptr<Cache> cache_;
};

[[nodiscard]] const char* material_name(MaterialKind kind);

}  // namespace cinnabar
