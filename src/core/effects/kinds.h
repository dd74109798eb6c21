// Practical effects as they are planned: the kinds there are, what each is measured by, and what comes of it on
// set: when things happen, the numbers that say how, and what moves about. SI, set seconds, the world's
// coordinates.
#pragma once
#include <array>
#include <cmath>
#include <cstdint>
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "cinnabar/base/range.h"
#include "cinnabar/base/result.h"
#include "cinnabar/base/vec.h"
#include "cinnabar/effects/cloud.h"
#include "cinnabar/effects/rigid.h"

namespace cinnabar {

/// What a kind is measured by. The key is that of the calculation it feeds; `usual` stands where it is left out.
struct EffectMeasure {
  std::string key, name, unit;
  Range range;
  double usual;
  bool list = false;   ///< as many as there are things, else one
  std::string with{};  ///< key of the measure without which, when it is 0, this one says nothing
  bool plain = false;  ///< of a plain thing: one with the form of a product has its own
};

/// What can hurt somebody or spoil the set. Words by `peril_words`.
enum class Peril { glass, wet_floor, water_by_mains, strings, blades, propellant, powder, fog, heat, flame, food };
struct Caution {
  std::string title, text;
};
[[nodiscard]] Caution peril_words(Peril peril);

/// A liquid at 20 degrees Celsius: handbook values, from memory. Viscosity within a half: time one fall.
struct LiquidRow {
  const char* name;
  double density, viscosity, surface_tension;  ///< kg/m3, Pa s, N/m
  Vec3 absorption;                             ///< per metre, in the three bands (common practice, no source)
  bool cloudy;                                 ///< its colour is seen instead of what is behind it
  Vec3 colour;
  double ior;
};
[[nodiscard]] const std::vector<LiquidRow>& liquids();
/// Nothing where there is none of that name.
[[nodiscard]] const LiquidRow* liquid_row(const std::string& name);

/// A vessel under an effect: its inner side as radius and height over `foot`, floor first, and where its liquid
/// stands.
struct EffectVessel {
  int number = 0;  ///< of whoever asks
  Vec3 foot;
  std::vector<std::array<double, 2>> inner;
  double level = 0;     ///< as it stands when the vessel is upright
  Vec3 axis{0, 1, 0};   ///< up the vessel, unit
  double lean_deg = 0;  ///< of the axis; only what is poured goes into one that leans

  [[nodiscard]] double rim() const { return inner.back()[1]; }
  /// The middle of its mouth.
  [[nodiscard]] Vec3 mouth() const { return foot + axis * rim(); }
  /// The height of its liquid as it stands now.
  [[nodiscard]] double surface() const;
  /// How much more it takes before it runs over, m3.
  [[nodiscard]] double room() const;
  /// Its inner radius at a height over its foot.
  [[nodiscard]] double width_at(double height) const;
};
/// What the lamps give something that stands there and faces them, straight and with nothing between.
struct LampsThere {
  double illuminance_lx = 0, irradiance = 0;  ///< lux, W/m2

  /// How much warmer than the air a thin thing gets that takes up that share of it (see LampMelt), kelvin.
  [[nodiscard]] double warming(double absorbed) const;
};
/// What is about the effect when it begins.
struct EffectPlace {
  double floor = 0;  ///< height of what all stands on
  LampsThere lamps{};
  std::vector<EffectVessel> vessels;
  /// A closed top that something may land on: its middle and how far it reaches about that.
  struct Top {
    Vec3 middle;
    double radius;
  };
  std::vector<Top> tops{};
  std::function<std::vector<RigidSolid>()> solids{};  ///< what stands there, as hulls; none: nothing is known

  /// The upright vessel whose mouth is over a place of the floor.
  [[nodiscard]] const EffectVessel* under(double x, double z) const;
  /// The height that a way down meets: that of the highest top which it comes onto, else the floor. `at` says
  /// where over the floor the way passes a height.
  [[nodiscard]] double lands_on(const std::function<Vec3(double height)>& at) const;
  /// The same straight down.
  [[nodiscard]] double ground(double x, double z) const {
    return lands_on([&](double) { return Vec3{x, 0, z}; });
  }
};

/// A thing with a form of its own that falls or is thrown.
struct EffectThing {
  RigidSolid hull;  ///< about the middle of its height on its axis
  Vec3 half;        ///< how far that reaches each way
  /// Diameter of the ball that takes as much room as a body of that reach.
  [[nodiscard]] double across() const { return 2.0 * std::cbrt(half.x * half.y * half.z); }
};

/// What a kind is asked with. Measures are all there, within their ranges.
struct EffectAsked {
  std::map<std::string, std::vector<double>> measures;
  Vec3 place;
  double at = 0;  ///< when it is let go
  std::uint64_t seed = 1;
  EffectPlace about{};
  std::optional<EffectThing> thing{};  ///< none: a ball or a box

  [[nodiscard]] double operator[](const char* key) const { return measures.at(key).front(); }
  [[nodiscard]] const std::vector<double>& list(const char* key) const { return measures.at(key); }
};

/// A moment of an effect, and between which two it lies nine times in ten where chance or the hand has a part.
struct EffectEvent {
  std::string name;
  double at;
  std::optional<std::pair<double, double>> span{};
};
struct EffectNumber {
  std::string name, unit;
  double value;
  std::string tell{};  ///< how far it may be off
};

/// One thing of an effect at one moment: a ball, a box or a thing of its own form about a place, a thread along
/// its spine, or something turned.
struct EffectShape {
  Vec3 place{};
  Vec3 right{1, 0, 0}, up{0, 1, 0};
  std::vector<std::pair<Vec3, double>> spine{};  ///< places and radii
  /// Of something turned about the upright through `place`: radius and height over it, up the outer side and down
  /// the inner one.
  std::vector<std::pair<double, double>> outline{};
};
enum class EffectForm { ball, box, thread, turned, thing };
/// A body over time. Those there at `when`, as they are at `t` near it: the same in number, so that they can be
/// followed through an exposure.
struct EffectBody {
  EffectForm form;
  Vec3 half;  ///< half sizes of a box, a thing's reach; a ball's radius thrice
  bool liquid = false;
  std::function<std::vector<EffectShape>(double when, double t)> at;
  std::function<double(double t)>
      fastest_from{};  ///< m/s that none of it exceeds from a set second on; may be none
};

/// How far a shape of a body reaches from its middle, metres; of a thread half of how thick it begins.
[[nodiscard]] double reach_of(const EffectBody& body, const EffectShape& shape);
/// "ball", "box", "thread", "turned" or "thing".
[[nodiscard]] const char* form_name(EffectForm form);

/// Drops that stand on something: the share of it that they cover, and how large the largest are across.
struct Beads {
  double share, size;
};

/// What comes of an effect.
struct EffectOutcome {
  std::vector<EffectEvent> events;  ///< in time
  std::vector<EffectNumber> numbers;
  std::vector<EffectBody> bodies;
  std::function<std::optional<Cloud>(double t)> cloud{};  ///< what hangs in the air at a set second
  std::function<std::optional<Beads>(double t)> beads{};  ///< what stands on the nearest product at a set second
  std::function<double(double)> poured{};                 ///< volume that a vessel has taken by a set second
  std::function<double(double)> foam{};                   ///< volume of the head on it at a set second
  std::function<double(double)> cavity{};  ///< radius of the half ball that stands open in its surface
  std::optional<Vec3> cavity_at{};         ///< its middle; none: on the vessel's axis
  std::optional<int> into{};               ///< number of the vessel that takes it
  std::optional<double> spare{};           ///< volume: room left at the fullest; negative where it runs over
  std::optional<double> life{};            ///< how long it stays good from `ready` on, seconds
  std::string life_of{};                   ///< what does
  std::vector<Peril> perils;
  std::vector<std::string> plates{};  ///< recordings that it is composed of
  std::vector<std::string> notes{};   ///< what to know before it is done, in sentences

  [[nodiscard]] const EffectEvent* event(const std::string& name) const;
  [[nodiscard]] std::optional<double> number(const std::string& name) const;
  /// What an effect is timed by where nobody says: where it lands, else what comes nearest to that. Nothing for
  /// what only stands about.
  [[nodiscard]] const EffectEvent* main_event() const;
};

struct EffectKind {
  std::string id, name, what;
  std::vector<EffectMeasure> measures;
  /// Fails with the measure's key, or with what is never planned.
  Expected<EffectOutcome> (*outcome)(const EffectAsked&);
  bool pours = false;   ///< measured by a liquid's numbers
  bool things = false;  ///< what falls may have the form of a product
};
/// In the order of the document's choices.
[[nodiscard]] const std::vector<EffectKind>& effect_kinds();
/// Nothing where there is none of that id.
[[nodiscard]] const EffectKind* effect_kind(const std::string& id);
/// Names of events that an effect may be timed by.
[[nodiscard]] const std::vector<std::string>& effect_events();

/// Measures as they are asked with: those given, what a liquid says, and else what is usual. Fails with the key of
/// one that is out of its range.
[[nodiscard]] Expected<std::map<std::string, std::vector<double>>> measures_of(
    const EffectKind& kind, const std::map<std::string, std::vector<double>>& given, const std::string& liquid);

// One kind a function.
Expected<EffectOutcome> poured_out(const EffectAsked&);
Expected<EffectOutcome> splashed(const EffectAsked&);
Expected<EffectOutcome> dropped(const EffectAsked&);
Expected<EffectOutcome> thrown(const EffectAsked&);
Expected<EffectOutcome> scattered(const EffectAsked&);
Expected<EffectOutcome> layered(const EffectAsked&);
Expected<EffectOutcome> swung(const EffectAsked&);
Expected<EffectOutcome> spun(const EffectAsked&);
Expected<EffectOutcome> misted(const EffectAsked&);
Expected<EffectOutcome> kept_fresh(const EffectAsked&);
Expected<EffectOutcome> steamed(const EffectAsked&);
Expected<EffectOutcome> fogged(const EffectAsked&);
Expected<EffectOutcome> powdered(const EffectAsked&);
Expected<EffectOutcome> blown(const EffectAsked&);
Expected<EffectOutcome> burst(const EffectAsked&);
Expected<EffectOutcome> levitated(const EffectAsked&);
Expected<EffectOutcome> morphed(const EffectAsked&);
Expected<EffectOutcome> stopped_motion(const EffectAsked&);
Expected<EffectOutcome> flamed(const EffectAsked&);

}  // namespace cinnabar
