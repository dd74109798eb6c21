// Shapes of the spot: what the brief says, deliverables, shots, takes; and the choices of the whole document.
#include "cinnabar/effects/kinds.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/house_rules.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/model/ranges.h"
#include "cinnabar/project/model/track_target.h"

namespace cinnabar {

const Names& material_names() {
  static const Names names{"matte",   "satin",  "gloss", "metal",       "mirror", "glass",
                           "frosted", "liquid", "paper", "translucent", "cloth"};
  return names;
}
const Names& cover_names() {
  static const Names names{"droplets", "dust", "fingerprints"};
  return names;
}
const Names& texture_names() {
  static const Names names{"wood", "marble", "stone", "weave", "picture"};
  return names;
}
const Names& light_shape_names() {
  static const Names names{"rectangle", "disc", "tube", "bare", "dome"};
  return names;
}
const Names& backdrop_names() {
  static const Names names{"none", "flat", "sweep"};
  return names;
}
const Names& size_names() {
  static const Names names{"wide", "close", "macro"};
  return names;
}
const Names& support_names() {
  static const Names names{"turntable", "slider", "head", "stand", "arm"};
  return names;
}
const Names& front_names() {
  static const Names names{"cloth", "beads", "lens", "tube", "gate"};
  return names;
}
const Names& wall_names() {
  static const Names names{"left", "right", "front", "back", "ceiling"};
  return names;
}
const Names& sky_names() {
  static const Names names{"clear", "partly", "overcast"};
  return names;
}
const Names& aim_names() {
  static const Names names{"product", "backdrop"};
  return names;
}
const Names& units_names() {
  static const Names names{"metric", "imperial"};
  return names;
}
const Names& role_names() {
  static const Names names{"hero", "detail", "action", "ending"};
  return names;
}

const Fields& house_rules_fields() {  // read by hand: rules of other programs are kept too
  static const Fields all = [] {
    Fields s;
    for (const HouseRuleRow& row : house_rule_rows()) s.rows.push_back(choice(row.key, row.names));
    return s;
  }();
  return all;
}

namespace {

const Fields& words_fields() {
  static const Fields all{
      {numbers("area", 4, share).needed(), number("last_seconds", seconds_range).into(&Words::last_seconds)}};
  return all;
}
const Fields& deliverable_fields() {
  static const Fields all{{text("id").needed().into(&Deliverable::id), text("name").into(&Deliverable::name),
                           number("width", pixels_range).needed().into(&Deliverable::width),
                           number("height", pixels_range).needed().into(&Deliverable::height), rate("rate"),
                           object("words", words_fields()),
                           number("shortest", seconds_range).into(&Deliverable::shortest),
                           number("longest", some_seconds).into(&Deliverable::longest),
                           number("loudness", {-70.0, 0.0}).into(&Deliverable::loudness).means("LUFS")}};
  return all;
}

const Fields& shot_product_fields() {
  static const Fields all{{reference("product", "products").needed().into(&ShotProduct::product),
                           numbers("place", 3, place_range).into(&ShotProduct::place),
                           number("turn_deg", angle_range).into(&ShotProduct::turn_deg),
                           reference("on", "kit/supports").into(&ShotProduct::on)}};
  return all;
}
const Fields& locks_fields() {
  static const Fields all{{flag("white"), flag("exposure"), flag("focus"), flag("stabiliser_off")}};
  return all;
}
/// Keys of a track as they stand in a document; what is none is left out.
void read_keys(const Json& keys, void* entity) {
  auto& track = *static_cast<KeyedTrack*>(entity);
  std::vector<std::pair<double, Vec3>> places;
  for (const Json& key : keys) {
    if (!key.is_array() || key.size() != 2 || !key[0].is_number()) continue;
    if (key[1].is_number()) track.keys.emplace_back(key[0].get<double>(), key[1].get<double>());
    if (!key[1].is_array() || key[1].size() != 3) continue;
    Vec3 at;
    field_value::put(at, key[1]);
    places.emplace_back(key[0].get<double>(), at);
  }
  if (!places.empty()) track.set_places(std::move(places));
}
/// A number or three of them, at a set second.
Json track_keys() {
  const Json number{{"type", "number"}, {"minimum", -1e6}, {"maximum", 1e6}};
  const Json three{{"type", "array"}, {"items", number}, {"minItems", 3}, {"maxItems", 3}};
  const Json key{{"type", "array"},
                 {"items", Json::array({number, {{"anyOf", Json::array({number, three})}}})},
                 {"minItems", 2},
                 {"maxItems", 2}};
  return {{"type", "array"}, {"maxItems", 10000}, {"items", key}};
}
const Fields& track_fields() {
  static const Fields all = [] {
    FieldRow keys = own("keys", track_keys())
                        .needed()
                        .means("[set second, value] or [set second, [x, y, z]] for a place, seconds rising");
    keys.read = read_keys;
    return Fields{{text("target").needed().into(&KeyedTrack::target).means(all_targets()),
                   choice("profile", shape_names()).into(&KeyedTrack::shape),
                   number("ramp", {0.0, 0.5, true, false})
                       .into(&KeyedTrack::ramp)
                       .means("share of the time that a trapezoid takes to come to speed, and to rest again"),
                   std::move(keys)}};
  }();
  return all;
}
const Fields& shake_fields() {
  static const Fields all{{number("rms_deg", {0.0, 45.0}).needed().into(&CameraShake::rms_deg),
                           number("corner_hz", {0.0, 100.0, true, false}).into(&CameraShake::corner_hz),
                           number("seed", whole(0, 1e9)).into(&CameraShake::seed)}};
  return all;
}
const Fields& facing_fields() {
  static const Fields all{{number("bearing_deg", angle_range).into(&FacingNeed::bearing_deg),
                           number("at", seconds_range).into(&FacingNeed::at),
                           number("for", seconds_range).into(&FacingNeed::lasting)}};
  return all;
}
const Fields& peak_fields() {
  static const Fields all{{text("light").needed().into(&Shot::peak_light)}};
  return all;
}
const Fields& use_fields() {
  static const Fields all{{reference("consumable", "kit/consumables").needed().into(&Use::consumable),
                           number("amount", {0.0, 1e9}).into(&Use::amount)}};
  return all;
}
const Fields& effect_need_fields() {
  static const Fields all{{choice("event", effect_events()).needed().into(&EffectNeed::event),
                           number("screen", seconds_range).into(&EffectNeed::screen).means("second of the shot"),
                           number("beat", {0.0, 1e6})
                               .into(&EffectNeed::beat)
                               .means("of the spot, the first being 0; where no second is named")}};
  return all;
}

/// One row for every measure of any kind, as wide as the widest takes it; a kind's own ranges are checked after.
std::vector<FieldRow> measure_rows() {
  std::vector<FieldRow> rows;
  std::map<std::string, EffectMeasure> all;
  for (const EffectKind& kind : effect_kinds())
    for (const EffectMeasure& m : kind.measures) {
      const auto [place, first] = all.try_emplace(m.key, m);
      Range& range = place->second.range;
      if (first) continue;
      if (m.range.low < range.low || (m.range.low == range.low && !m.range.low_open))
        range.low = m.range.low, range.low_open = m.range.low_open;
      if (m.range.high > range.high || (m.range.high == range.high && !m.range.high_open))
        range.high = m.range.high, range.high_open = m.range.high_open;
      range.whole = range.whole && m.range.whole;
    }
  for (const auto& [key, m] : all) {
    FieldRow row =
        m.list ? own(key, {{"type", "array"},
                           {"minItems", 1},
                           {"maxItems", 1000},
                           {"items", {{"type", "number"}, {"minimum", m.range.low}, {"maximum", m.range.high}}}})
               : number(key, m.range);
    row.note = m.unit.empty() ? m.name : m.name + ", " + m.unit;
    row.read = [key = key](const Json& j, void* entity) {
      std::vector<double>& to = static_cast<Effect*>(entity)->measures[key];
      if (j.is_number()) to = {j.get<double>()};
      if (!j.is_array()) return;
      for (const Json& one : j)
        if (one.is_number()) to.push_back(one.get<double>());
    };
    rows.push_back(std::move(row));
  }
  return rows;
}
}  // namespace

const Names& effect_names() {
  static const Names names = [] {
    Names list;
    for (const EffectKind& kind : effect_kinds()) list.push_back(kind.id);
    return list;
  }();
  return names;
}
const Names& liquid_names() {
  static const Names names = [] {
    Names list;
    for (const LiquidRow& row : liquids()) list.emplace_back(row.name);
    return list;
  }();
  return names;
}
const Fields& effect_fields() {
  static const Fields all = [] {
    Fields s{
        {text("id").needed().into(&Effect::id), text("name").into(&Effect::name),
         choice("kind", effect_names()).needed().into(&Effect::kind),
         number("at", seconds_range).into(&Effect::at).means("Set second at which it is let go, or ready"),
         numbers("place", 3, place_range).into(&Effect::place).means("Where it is let go, in the world"),
         choice("liquid", liquid_names()).into(&Effect::liquid).means("Says what is not measured of it"),
         reference("product", "products").into(&Effect::product).means("Whose form what falls or is thrown has"),
         object("material", material_fields()), object("needs", effect_need_fields()).into(&Effect::needs),
         objects("uses", use_fields()).into(&Effect::uses).means("What one take of it uses up"),
         number("supply", {0.0, 1000.0})
             .into(&Effect::supply)
             .means("Cubic metres of the liquid that are there; left out: enough"),
         number("hands", whole(1.0, 100.0)).into(&Effect::hands).means("People that it takes"),
         number("reset_minutes", {0.0, 1e5}).into(&Effect::reset_minutes).means("Added to the shot's own"),
         number("seed", whole(0.0, 9007199254740991.0)).into(&Effect::seed).means("Of its one drawing by chance"),
         flag("read").into(&Effect::read).means("Its cautions were read")}};
    for (FieldRow& row : measure_rows()) s.rows.push_back(std::move(row));
    return s;
  }();
  return all;
}

const Fields& polariser_fields() {
  static const Fields all{
      {number("angle_deg", angle_range)
           .needed()
           .into(&Polariser::angle_deg)
           .means("Of what it lets through, from the frame's or the face's upright, turned as a roll is"),
       number("stops", {0.5, 5.0}).into(&Polariser::stops).means("That it takes; left out: 1.5")}};
  return all;
}
const Fields& shot_camera_fields() {
  static const Fields all{
      {reference("camera", "kit/cameras").into(&ShotCamera::camera),
       reference("lens", "kit/lenses").into(&ShotCamera::lens), text("mode").into(&ShotCamera::mode),
       reference("on", "kit/supports").into(&ShotCamera::on).means("Slider or head it stands on"),
       number("focal", focal_range).into(&ShotCamera::focal),
       numbers("place", 3, place_range).needed().into(&ShotCamera::place),
       numbers("aim", 3, place_range).needed().into(&ShotCamera::aim),
       number("roll_deg", angle_range).into(&ShotCamera::roll_deg),
       number("focus", size_range).into(&ShotCamera::focus),
       number("f_number", f_number_range).into(&ShotCamera::f_number),
       number("shutter_time", some_seconds).into(&ShotCamera::shutter_time),
       number("iso", iso_range).into(&ShotCamera::iso),
       number("nd_stops", stops_range).into(&ShotCamera::nd_stops),
       number("balance_k", kelvin_range).into(&ShotCamera::balance_k), object("locked", locks_fields()),
       object("polariser", polariser_fields()).into(&ShotCamera::polariser).means("A film before the lens"),
       numbers("slide_axis", 3, {-1.0, 1.0}).into(&ShotCamera::slide_axis),
       object("shake", shake_fields()).into(&ShotCamera::shake).means("hand-held: across and up, each")}};
  return all;
}
const Fields& needs_fields() {
  static const Fields all{
      {object("facing", facing_fields()).into(&Shot::facing),
       object("peak", peak_fields()).means("The light that should be brightest as the label faces"),
       own("features", {{"type", "array"}, {"items", {{"type", "string"}}}})
           .into(&Shot::features)
           .means("Features promised in this shot, PRODUCT/FEATURE"),
       number("slow", {0.0, 1e6, true, false}).into(&Shot::slow),
       number("length", some_seconds).into(&Shot::length),
       flag("loop").into(&Shot::loops).means("The film runs round; left out, a spin of whole turns is taken to")}};
  return all;
}
namespace {

const Fields& sketch_fields() {
  const Json point{{"type", "array"},
                   {"items", {{"type", "number"}, {"minimum", -1}, {"maximum", 2}}},
                   {"minItems", 2},
                   {"maxItems", 2}};
  static const Fields all{
      {flag("instead").into(&Sketch::instead),
       own("strokes", {{"type", "array"}, {"maxItems", 5000}, {"items", {{"type", "array"}, {"items", point}}}})}};
  return all;
}

}  // namespace

const Fields& shot_fields() {
  static const Fields all{
      {text("id").needed().into(&Shot::id),
       text("name").into(&Shot::name),
       reference("setup", "setups").needed().into(&Shot::setup),
       choice("size", size_names()).into(&Shot::size),
       number("screen_time", some_seconds).needed().into(&Shot::screen_time),
       objects("products", shot_product_fields()).into(&Shot::products),
       object("camera", shot_camera_fields()),
       object("house_rules", house_rules_fields()),
       number("target_stops", stops_range).into(&Shot::target_stops),
       rising("play", {1e-6, 1e6}).means("[set second, speed], seconds rising, speed over 0"),
       flag("reversed").into(&Shot::reversed).means("What is recorded last shows first"),
       objects("tracks", track_fields()).into(&Shot::tracks),
       object("needs", needs_fields()),
       choice("role", role_names())
           .into(&Shot::role)
           .means("What the shot is in the spot; left out, what its size and place say"),
       text("sound").into(&Shot::sound).means("Sound cue"),
       number("reset_minutes", {0.0, 1e5}).into(&Shot::reset_minutes).means("Between two takes"),
       number("hands", whole(1.0, 100.0)).into(&Shot::hands).means("People that a take needs; 1 where left out"),
       objects("uses", use_fields()).into(&Shot::uses).means("What one take uses up"),
       number("crop_share", {0.0, 1.0, true, false})
           .into(&Shot::crop_share)
           .means("Least share of the frame's width that a crop move in the edit keeps, 1 where left out"),
       number("takes_planned", whole(0.0, 1e5)).into(&Shot::takes_planned),
       number("keepers_wanted", whole(0.0, 1e5)).into(&Shot::keepers_wanted),
       text("notes").into(&Shot::notes),
       text("move").into(&Shot::move).means("The ready move it was made by"),
       object("sketch", sketch_fields())
           .into(&Shot::sketch)
           .means("Pen strokes, points as shares of the frame from its top left"),
       entities("effects", effect_fields()).into(&Shot::effects),
       texts("plates", "clean plate").into(&Shot::plates).means("Recordings that it is composed of")}};
  return all;
}

namespace {

const Fields& take_fields() {
  static const Fields all{{text("id").needed().into(&Take::id),
                           reference("shot", "shots").needed().into(&Take::shot),
                           number("number", whole(1.0, 1e6)).into(&Take::number), text("at").into(&Take::at),
                           flag("kept").into(&Take::kept), text("notes").into(&Take::notes),
                           texts("reasons", "label late").into(&Take::reasons)}};
  return all;
}
const Fields& limits_fields() {
  static const Fields all{{number("iso", iso_range).into(&Project::iso_limit)}};
  return all;
}

const Fields& means_fields() {
  static const Fields all{{number("budget", {0.0, 1e12}).into(&Means::budget),
                           number("room_width", size_range).into(&Means::room_width),
                           number("room_depth", size_range).into(&Means::room_depth),
                           number("room_height", size_range).into(&Means::room_height),
                           number("hands", whole(0.0, 1000.0)).into(&Means::hands),
                           number("circuits", whole(0.0, 1000.0)).into(&Means::circuits)}};
  return all;
}

}  // namespace

const Fields& project_fields() {
  static const Fields all = [] {
    FieldRow name = text("name").needed().into(&Project::name);
    name.schema = {{"pattern", "\\S"}};
    FieldRow limits = object("limits", limits_fields());
    limits.read = [](const Json& j, void* project) {
      if (j.is_object()) read_fields(limits_fields(), j, project);
    };
    return Fields{{std::move(name), text("client"), text("aim"), text("notes"), text("mood").into(&Project::mood),
                   text("date").into(&Project::date),
                   number("hour", {0.0, 24.0}).into(&Project::hour).means("Of the first take, by the clock there"),
                   choice("units", units_names()).into(&Project::units),
                   number("allowed_time", some_seconds).into(&Project::allowed_time),
                   rate("timeline_rate").needed().into(&Project::timeline_rate),
                   number("beats_per_minute", {1.0, 1000.0}).into(&Project::beats_per_minute),
                   number("mains_hz", {1.0, 1000.0}).into(&Project::mains_hz),
                   number("mains_volts", {1.0, 1000.0}).into(&Project::mains_volts),
                   number("breaker_amps", {0.1, 1000.0})
                       .into(&Project::breaker_amps)
                       .means("One circuit's; left out 16, or 20 on mains under 160 V"),
                   number("cuts_on_beats", share)
                       .into(&Project::cuts_on_beats)
                       .means("Least share of the cuts that lie on beats"),
                   number("latitude", {-90.0, 90.0}).into(&Project::latitude),
                   number("longitude", {-180.0, 180.0}).into(&Project::longitude), std::move(limits),
                   object("means", means_fields()).into(&Project::means)}};
  }();
  return all;
}

const std::vector<std::pair<std::string, const Fields*>>& entity_fields() {
  static const std::vector<std::pair<std::string, const Fields*>> all = [] {
    std::vector<std::pair<std::string, const Fields*>> list{{"deliverables", &deliverable_fields()},
                                                            {"products", &product_fields()}};
    for (const auto& kit : kit_lists_fields()) list.push_back(kit);
    list.insert(list.end(), {{"setups", &setup_fields()}, {"shots", &shot_fields()}, {"takes", &take_fields()}});
    return list;
  }();
  return all;
}

}  // namespace cinnabar
