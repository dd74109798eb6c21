#include "cinnabar/cli/calculations.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <optional>

#include "cinnabar/base/text.h"
#include "cinnabar/color/difference.h"
#include "cinnabar/color/palette.h"
#include "cinnabar/color/white.h"
#include "cinnabar/effects/air.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/fluids.h"
#include "cinnabar/effects/pours.h"
#include "cinnabar/effects/splashes.h"
#include "cinnabar/motion/camera_moves.h"
#include "cinnabar/motion/clocks.h"
#include "cinnabar/motion/machines.h"
#include "cinnabar/motion/moves.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/optics/lens.h"
#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/exposure.h"
#include "cinnabar/photometry/mirrors.h"
#include "cinnabar/photometry/modifiers.h"
#include "cinnabar/photometry/ripple.h"
#include "cinnabar/photometry/settings.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/planning/means.h"
#include "cinnabar/takes/prediction.h"

namespace cinnabar {
namespace {

using Json = nlohmann::ordered_json;
using Words = std::map<std::string, std::string, std::less<>>;

tl::unexpected<Error> malformed(std::string_view key, const std::string& wanted) {
  return fail(std::string(key), "cannot be read", "give " + wanted);
}

/// Groups of numbers: "a:b,a:b,...", as often as there are.
template <std::size_t N>
Expected<void> read_groups(const KeyRow& key, const std::string& word, std::vector<std::array<double, N>>& out) {
  for (const std::string& group : split(word, ',')) {
    const auto parts = split(group, ':');
    auto& numbers = out.emplace_back();
    for (std::size_t i = 0; i < N; ++i) {
      const auto number = parts.size() == N ? parse_number(parts[i]) : std::nullopt;
      if (!number) return malformed(key.name, "\"" + std::string(key.unit) + "\"");
      numbers[i] = *number;
    }
  }
  return {};
}

Expected<Json> read_key(const KeyRow& key, void* in, const std::string& word) {
  const std::string range = key.range.text();
  if (auto* text = key.member.in<std::string>(in)) {
    *text = word;
    return Json(word);
  }
  if (auto* list = key.member.in<std::vector<double>>(in)) {
    for (const std::string& part : split(word, ',')) {
      const auto number = parse_number(part);
      if (!number) return malformed(key.name, "numbers between commas, each " + range);
      list->push_back(*number);
    }
    return Json(*list);
  }
  if (auto* triple = key.member.in<std::array<double, 3>>(in)) {
    const auto three = parse_three(word);
    if (!three) return malformed(key.name, "\"L,a,b\", L from 0 to 100");
    *triple = *three;
    return Json(*triple);
  }
  if (auto* points = key.member.in<std::vector<SpeedPoint>>(in)) {
    for (const std::string& part : split(word, ',')) {
      const auto pair = split(part, ':');
      const auto t = pair.size() == 2 ? parse_number(pair[0]) : std::nullopt;
      const auto speed = pair.size() == 2 ? parse_number(pair[1]) : std::nullopt;
      if (!t || !speed) return malformed(key.name, "\"t:speed,t:speed,...\", t strictly rising, speed > 0");
      points->push_back({*t, *speed});
    }
    return Json(word);
  }
  if (auto* pairs = key.member.in<std::vector<std::array<double, 2>>>(in)) {
    CINNABAR_TRY(read_groups(key, word, *pairs));
    return Json(word);
  }
  if (auto* triples = key.member.in<std::vector<std::array<double, 3>>>(in)) {
    CINNABAR_TRY(read_groups(key, word, *triples));
    return Json(word);
  }
  const auto number = key.typed == Typed::rate ? parse_rate(word) : parse_number(word);
  if (!number) return malformed(key.name, "a number, " + range);
  if (!key.range.contains(*number)) return out_of_range(key.name, range);
  if (auto* plain = key.member.in<double>(in)) *plain = *number;
  if (auto* maybe = key.member.in<std::optional<double>>(in)) *maybe = *number;
  return Json(*number);
}

Json finite(double value) { return std::isfinite(value) ? Json(value) : Json(nullptr); }

Json written(const ResultRow& key, const void* results) {
  if (const auto* number = key.member.in<double>(results)) return finite(*number);
  if (const auto* maybe = key.member.in<std::optional<double>>(results))
    return *maybe ? finite(**maybe) : Json(nullptr);
  if (const auto* flag = key.member.in<bool>(results)) return *flag;
  if (const auto* text = key.member.in<std::string>(results)) return *text;
  Json out = Json::array();
  if (const auto* list = key.member.in<std::vector<double>>(results))
    for (const double value : *list) out.push_back(finite(value));
  return out;
}

Expected<Words> words_by_key(std::span<const std::string> words) {
  Words by_key;
  for (const std::string& word : words) {
    const auto equals = word.find('=');
    if (equals == std::string::npos) return fail(word, "is not key=value", "write it as key=value");
    if (!by_key.emplace(word.substr(0, equals), word.substr(equals + 1)).second)
      return fail(word.substr(0, equals), "is given twice", "give it once");
  }
  return by_key;
}

bool optional(const KeyRow& key) { return key.member.kind() == KeyMember::Kind::maybe; }

/// A calculation without the types of its inputs and results.
struct Erased {
  const char *name, *source;
  std::vector<KeyRow> keys;
  std::vector<ResultRow> results;
  void (*function)();
};

/// What was typed, into the members that the keys name; what was understood.
Expected<Json> inputs_read(const Erased& of, void* in, std::span<const std::string> words) {
  const auto by_key = words_by_key(words);
  if (!by_key) return tl::unexpected(by_key.error());
  std::string known;
  for (const KeyRow& key : of.keys) known += (known.empty() ? "" : ", ") + std::string(key.name);
  for (const auto& given : *by_key)
    if (std::none_of(of.keys.begin(), of.keys.end(), [&](const KeyRow& k) { return k.name == given.first; }))
      return fail(given.first, std::string("is not a key of ") + of.name, "its keys are " + known);
  Json inputs = Json::object();
  for (const KeyRow& key : of.keys) {
    const auto word = by_key->find(key.name);
    if (word == by_key->end()) {
      if (optional(key)) continue;
      return fail(
          std::string(key.name), "is missing",
          fmt::format("give {}=..., {}{}{}", key.name, key.range.text(), key.unit.empty() ? "" : " ", key.unit));
    }
    const auto value = read_key(key, in, word->second);
    if (!value) return tl::unexpected(value.error());
    inputs[std::string(key.name)] = *value;
  }
  return inputs;
}

Json answered(const Erased& of, const Json& inputs, const void* results) {
  Json out = Json::object();
  for (const ResultRow& key : of.results) out[std::string(key.name)] = written(key, results);
  return Json{{"calc", of.name}, {"inputs", inputs}, {"results", out}, {"source", of.source}};
}

/// The part that knows the types.
template <class T, class R>
Expected<Json> run(const Erased& of, std::span<const std::string> words) {
  T in{};
  const auto inputs = inputs_read(of, &in, words);
  if (!inputs) return tl::unexpected(inputs.error());
  const auto results = reinterpret_cast<Expected<R> (*)(const T&)>(of.function)(in);
  if (!results) return tl::unexpected(results.error());
  return answered(of, *inputs, &*results);
}

Calculation made(Erased of, Expected<Json> (*run)(const Erased&, std::span<const std::string>)) {
  Calculation out{of.name, of.source, {}, {}, {}};
  for (const KeyRow& key : of.keys)
    out.inputs.push_back({std::string(key.name), std::string(key.unit),
                          key.member.kind() == KeyMember::Kind::text ? "text" : key.range.text(), optional(key)});
  for (const ResultRow& key : of.results)
    out.results.push_back({std::string(key.name), std::string(key.unit), {}});
  out.run = [of = std::move(of), run](std::span<const std::string> words) { return run(of, words); };
  return out;
}

template <class T, class R>
Calculation calculation(const char* name, const char* source, Expected<R> (*function)(const T&)) {
  const Keys<T> keys = T::keys();
  const Results<R> results = R::results();
  return made({name,
               source,
               {keys.begin(), keys.end()},
               {results.begin(), results.end()},
               reinterpret_cast<void (*)()>(function)},
              &run<T, R>);
}

std::vector<Calculation> all() {
  const char *lens = "Ray, Applied Photographic Optics, 2002", *glass = "Born & Wolf, Principles of Optics",
             *factors = "Howell, A Catalog of Radiation Heat Transfer Configuration Factors",
             *mechanics = "Halliday & Resnick, Fundamentals of Physics", *geometry = "geometry";
  std::vector<Calculation> list{
      calculation("ev", "ISO 2720:1974", exposure_value),
      calculation("incident-exposure", "ISO 2720:1974, C = 250", incident_exposure),
      calculation("reflected-exposure", "ISO 2720:1974, K = 12.5", reflected_exposure),
      calculation("sensor-exposure", "ISO 12232:2019, q = 0.65", sensor_exposure),
      calculation("grey-noise", "EMVA Standard 1288; sRGB curve of IEC 61966-2-1", grey_noise),
      calculation("stops", "definition: log2 of the ratio", stops),
      calculation("shutter", "definition of the shutter angle", shutter),
      calculation("shutter-angle", "definition of the shutter angle", shutter_angle),
      calculation("slow-motion", geometry, slow_motion),
      calculation("ramp", "integral of dt / speed", ramp),
      calculation("effective-f-number", lens, effective_f_number),
      calculation("field-of-view", lens, field_of_view),
      calculation("depth-of-field", lens, depth_of_field),
      calculation("depth-macro", lens, depth_macro),
      calculation("macro-focus", lens, macro_focus),
      calculation("blur-disc", lens, blur_disc),
      calculation("airy-disc", glass, airy_disc),
      calculation("smear", geometry, smear),
      calculation("turntable", geometry, turntable),
      calculation("judder", "American Cinematographer Manual (value from memory)", judder),
      calculation("fall", "Timmerman & van der Weele 1999, Am. J. Phys. 67:538", fall),
      calculation("layer-release", mechanics, layer_release),
      calculation("swing", "Abramowitz & Stegun 17.6", swing),
      calculation("unwind", geometry, unwind),
      calculation("jet", "Batchelor, An Introduction to Fluid Dynamics, 1967", jet),
      calculation("drain", "Torricelli; Streeter & Wylie, Fluid Mechanics", drain),
      calculation("slosh", "Ibrahim, Liquid Sloshing Dynamics, 2005", slosh),
      calculation("spray-mix", "Cheng 2008, Ind. Eng. Chem. Res. 47:3285", spray_mix),
      calculation("penumbra", geometry, penumbra),
      calculation("shadow-edge", geometry, shadow_edge),
      calculation("rect-illuminance", factors, rect_illuminance),
      calculation("disc-illuminance", factors, disc_illuminance),
      calculation("beam", "inverse square law", beam),
      calculation("beam-lumens", geometry, beam_lumens),
      calculation("softbox", "Lambertian face", softbox),
      calculation("mired", "definition of the mired", mired),
      calculation("gel", "definition of the mired", gel),
      calculation("white", "CIE 15:2004; Kim et al. 2002; Bradford adaptation; ITU-R BT.709", white),
      calculation("colour-difference", "ISO/CIE 11664-6; Sharma, Wu & Dalal 2005", colour_difference),
      calculation("cylinder-stripe", "law of reflection, in plan", cylinder_stripe),
      calculation("fresnel", glass, fresnel),
      calculation("absorb", "Beer-Lambert law", absorb),
      calculation("flicker", "mean of a sine over the exposure", flicker),
      calculation("sun", "Meeus, Astronomical Algorithms, 2nd ed.", sun),
      calculation("load", "NFPA 70 art. 210", load),
      calculation("media", "IEC 80000-13", media),
      calculation("takes-left", "Jeffreys 1961; Johnson, Kemp & Kotz 2005", takes_left),
      calculation("stop-motion", "common practice, no source", stop_motion),
      calculation("profile", "Flash & Hogan 1985, J. Neurosci. 5:1688", profile),
      calculation("diffusion-sheet", "Lafortune & Willems 1994 (value from memory)", diffusion_sheet),
      calculation("bead-ripple", "Abramowitz & Stegun 11.4.44", bead_ripple),
      calculation("fresnel-spot", glass, fresnel_spot),
      calculation("snoot", geometry, snoot),
      calculation("framing-shutter", lens, framing_shutter),
      calculation("grid", "common practice, no source: a straight line over the tangent", grid),
      calculation("bounce", "Lambert 1760, Photometria", bounce),
      calculation("polariser", glass, polariser),
      calculation("gel-colour", "CIE 15:2004; ITU-R BT.709", gel_colour),
      calculation("daylight", "IES RP-21; Kasten & Young 1989 (values from memory)", outdoor_light),
      calculation("window", "ISO 15469; Moon & Spencer 1942 (values from memory)", window),
      calculation("window-drift", "ISO 15469; IES RP-21 (values from memory); Meeus", window_drift),
      calculation("round-mirror", "law of reflection (Alhazen's problem)", round_mirror),
      calculation("backdrop-gradient", "inverse square and cosine laws", backdrop_gradient),
      calculation("backdrop-rim", glass, backdrop_rim),
      calculation("key-difference", "CIE 15:2004; ISO/CIE 11664-6", key_difference),
      calculation("rolling-shutter", geometry, rolling_shutter),
      calculation("pwm-flicker", "mean over the exposure", pwm_flicker),
      calculation("flicker-beat", "mean of a sine over the exposure", flicker_beat),
      calculation("turntable-start", "Howe & Cutkosky 1996, Int. J. Robot. Res. 15", turntable_start),
      calculation("s-curve", "Biagiotti & Melchiorri, Trajectory Planning, 2008", s_curve),
      calculation("parallax", lens, parallax),
      calculation("shake", "stationary process of a double pole; size: common practice, no source", shake),
      calculation("axis-step", geometry, axis_step),
      calculation("strobe", "sampling: the least turn between frames", strobe),
      calculation("play-frame", "integral of dt / speed", play_frame),
      calculation("expose", "ISO 2720:1974, C = 250", find_exposure),
      calculation("start-slosh", "Ibrahim, Liquid Sloshing Dynamics, 2005", start_slosh),
      calculation("lip-pour", "ISO 1438; Rouse 1936 (values from memory)", lip_pour),
      calculation("neck-pour", "Clanet & Searby 2004 (value from memory); Torricelli", neck_pour),
      calculation("jet-breakup", "Weber 1931 (value from memory)", jet_breakup),
      calculation("viscous-thread", "Clarke 1968; Cruickshank & Munson 1981; Ribe 2004 (values from memory)",
                  viscous_thread),
      calculation("fill", geometry, fill),
      calculation("tilt-hold", geometry, tilt_hold),
      calculation("slosh-stop", "Ibrahim, Liquid Sloshing Dynamics, 2005", slosh_stop),
      calculation("plunge", "Engel 1966; Pumphrey & Elmore 1990; Gilbarg & Anderson 1948 (values from memory)",
                  plunge),
      calculation("drop-impact", "Laan et al. 2014; Yarin & Weiss 1995 (values from memory)", drop_impact),
      calculation("spray-count", "Villermaux et al. 2004 (value from memory)", spray_count),
      calculation("settle", "Schiller & Naumann 1935", settle),
      calculation("flight", mechanics, flight),
      calculation("rebound", mechanics, rebound),
      calculation("tumble", mechanics, tumble),
      calculation("scatter-fall", "Steele, Lea & Flood 2014 (SplitMix64)", scatter_fall),
      calculation("layer-drop", "Timmerman & van der Weele 1999, Am. J. Phys. 67:538", layer_drop),
      calculation("recoil", mechanics, recoil),
      calculation("swing-hit", "Abramowitz & Stegun 17.6", swing_hit),
      calculation("string-spin", mechanics, string_spin),
      calculation("air-jet", "Rajaratnam 1976 (value from memory)", air_jet),
      calculation("plume", "Morton, Taylor & Turner 1956", plume),
      calculation("haze", "Henyey & Greenstein 1941", haze),
      calculation("steam", "Magnus (value from memory)", steam),
      calculation("bead-hold", "Furmidge 1962; ElSherbini & Jacobi 2006 (value from memory)", bead_hold),
      calculation("bead-dry", "Hu & Larson 2002 (value from memory)", bead_dry),
      calculation("lamp-melt", "heat balance; 10 W/m2K: common practice, no source", lamp_melt),
      calculation("plate-parallax", lens, plate_parallax),
      calculation("hit-chance", "normal distribution", hit_chance)};
  std::sort(list.begin(), list.end(), [](const auto& a, const auto& b) { return a.name < b.name; });
  return list;
}

}  // namespace

const std::vector<Calculation>& calculations() {
  static const std::vector<Calculation> list = all();
  return list;
}

const Calculation* find_calculation(std::string_view name) {
  for (const Calculation& c : calculations())
    if (c.name == name) return &c;
  return nullptr;
}

}  // namespace cinnabar
