// Shapes of what is owned and what stands on the floor: products, kit, set-ups.
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/model/ranges.h"

namespace cinnabar {

namespace {
const Fields& texture_fields() {
  static const Fields all{
      {choice("kind", texture_names()).needed().into(&Texture::kind),
       number("size", size_range).into(&Texture::size).means("Width of the tile that repeats"),
       number("turn_deg", angle_range).into(&Texture::turn_deg).means("Of the pattern in the thing's plane"),
       numbers("colour", 3, share).into(&Texture::colour).means("Of grain, veins, specks or the other thread"),
       blob("picture", BlobUse::picture, "choose another kind").into(&Texture::picture)},
      {{"kind", "picture", {"picture"}}}};
  return all;
}
}  // namespace

const Fields& material_fields() {  // read by hand: what is left out depends on the kind
  static const Fields all{
      {choice("kind", material_names()).needed(), numbers("colour", 3, share), number("roughness", share),
       number("ior", {1.0, 4.0}), numbers("absorption", 3, {0.0, 1e6}), number("transmittance", share),
       numbers("scattering", 3, {0.0, 1e6})
           .means("Per metre, inside a translucent body; left out it is a thin sheet"),
       number("brushing", {-1.0, 1.0})
           .means("Of satin and metal: above 0 lines round the body or across, below along it"),
       number("sheen", share).means("Of matte, paper and cloth: a nap of upright fibres"),
       number("screen", {0.0, 1e5}).means("cd/m2 that white shows by light of its own"),
       object("relief", relief_fields()).means("Pits of a skin or a cast"),
       object("cover", cover_fields()).means("What lies on the surface"), flag("textured"),
       number("forward", share)
           .means("Of a translucent sheet: of what it lets through, what goes nearly straight on"),
       number("lobe_deg", {1.0, 60.0}).means("From the ray to where that share gives half; left out: 20"),
       object("texture", texture_fields())
           .means(
               "Of surfaces, backdrops, cards and square bodies; `colour` is its ground, left out of a picture: "
               "as the picture is")}};
  return all;
}

const Fields& relief_fields() {
  static const Fields all{
      {number("size", fine_range).needed().into(&Relief::size).means("Across the largest pit, metres"),
       number("depth", fine_range).needed().into(&Relief::depth).means("Of the largest pit, metres")}};
  return all;
}
const Fields& cover_fields() {
  static const Fields all{
      {choice("kind", cover_names()).needed().into(&Cover::kind),
       number("share", {0.0, 0.8}).needed().into(&Cover::share).means("Of the surface"),
       number("size", fine_range).needed().into(&Cover::size).means("Across the largest, metres")}};
  return all;
}

namespace {

/// [radius, height], or with half the depth and the shift; one radius over 0.
Json outline() {
  const Json any{{"type", "number"}, {"minimum", -far_away}, {"maximum", far_away}},
      width{{"type", "number"}, {"minimum", 0}, {"maximum", far_away}};
  return {
      {"type", "array"},
      {"minItems", 2},
      {"maxItems", 2000},
      {"items",
       {{"type", "array"}, {"items", Json::array({width, any, width, any})}, {"minItems", 2}, {"maxItems", 4}}},
      {"contains", {{"items", Json::array({Json{{"exclusiveMinimum", 0}}})}}}};
}

const Fields& part_fields() {
  static const Fields all{
      {text("id").needed().into(&Part::id),
       own("profile", outline())
           .means("[radius, height] from bottom to top; or [half width, height, half depth, shift to the right]"),
       blob("mesh", BlobUse::mesh, "give a profile")
           .means("Blob of binary STL in metres, Y up, instead of a profile"),
       choice("section", {"round", "box"}).into(&Part::section).means("Circle or ellipse; or rectangle"),
       number("corner", thickness_range).into(&Part::corner).means("Radius of a box's upright edges"),
       number("wall", thickness_range).into(&Part::wall), object("material", material_fields())},
      {},
      {{"profile"}, {"mesh"}}};
  return all;
}

const Fields& label_fields() {
  static const Fields all{
      {text("part").needed().into(&Label::part), number("bearing_deg", angle_range).into(&Label::bearing_deg),
       number("arc_deg", {0.0, 360.0, true, false}).needed().into(&Label::arc_deg),
       number("low", place_range).needed().into(&Label::low),
       number("high", place_range).needed().into(&Label::high),
       number("stroke", size_range).into(&Label::stroke).means("Height of the finest stroke that must be read"),
       blob("picture", BlobUse::picture, "leave it out").into(&Label::picture),
       blob("foil", BlobUse::picture, "leave it out")
           .into(&Label::foil)
           .means("Blob of a picture: where it is bright, foil is stamped on"),
       object("foil_material", material_fields()), object("material", material_fields())}};
  return all;
}

const Fields& feature_fields() {
  static const Fields all{
      {text("id").needed().into(&Feature::id), text("name").into(&Feature::name),
       numbers("at", 3, place_range).needed().into(&Feature::at),
       number("detail", size_range).into(&Feature::detail),
       number("size", size_range).into(&Feature::size).means("Height of its patch; left out ten times its detail"),
       flag("read").into(&Feature::read)}};
  return all;
}

const Fields& built_fields() {  // measures are the kinds' own (making/product_kinds.h)
  static const Fields all{{own("kind", {{"type", "string"}})}};
  return all;
}

/// What every item of the kit says of being there, as rows of its holding.
std::vector<FieldRow> holding_rows() {
  return {flag("owned")
              .into(&Holding::owned)
              .means("Left out: true. What is not owned helps no level, and is what could be bought"),
          number("count", whole(0.0, 1e6))
              .into(&Holding::count)
              .means("Pieces; 1 where left out")
              .on_page({"Pieces", ""}),
          number("price", {0.0, 1e9})
              .into(&Holding::price)
              .means("Of one piece or unit")
              .on_page({"Price", "", 1, 0, 5}),
          flag("hired").into(&Holding::hired).means("The price is for the day")};
}

/// An item's own rows, before them its id and name and after them its holding.
template <class T>
Fields kit_fields(std::vector<FieldRow> own, std::vector<FieldCase> cases = {}) {
  Fields all{{text("id").needed().into(&T::id), text("name").into(&T::name)}, std::move(cases)};
  for (FieldRow& row : own) all.rows.push_back(std::move(row));
  for (FieldRow& row : holding_rows()) {
    row.offset += offset_in(&T::holding);
    all.rows.push_back(std::move(row));
  }
  return all;
}

const Fields& mode_fields() {
  static const Fields all{
      {text("id").needed().into(&CameraMode::id),
       number("width", pixels_range).needed().into(&CameraMode::width).on_page({"Wide", "px", 1, 0, 16}),
       number("height", pixels_range).needed().into(&CameraMode::height).on_page({"High", "px", 1, 0, 16}),
       rate("rate").needed().into(&CameraMode::rate).on_page({"Rate", "/s", 1, 3, 1}),
       number("crop", {1.0, 100.0}).into(&CameraMode::crop).on_page({"Crop", "x", 1, 2, 0.05}),
       number("readout", {0.0, 10.0}).into(&CameraMode::readout).on_page({"Readout", "ms", 1e-3, 1, 0.5}),
       number("megabits_per_s", watts_range)
           .into(&CameraMode::megabits_per_s)
           .on_page({"Writes", "Mb/s", 1, 0, 10}),
       number("stops_over_grey", {0.5, 20.0})
           .into(&CameraMode::stops_over_grey)
           .means("Clipping above the exposure's own grey; left out: ISO 12232 saturation, 78 / S")
           .on_page({"Headroom", "stops", 1, 1, 0.1}),
       flag("autofocus").into(&CameraMode::autofocus)}};
  return all;
}

const Fields& camera_fields() {
  static const Fields all = kit_fields<CameraBody>(
      {number("sensor_width", {0.0, 1.0, true, false})
           .needed()
           .into(&CameraBody::sensor_width)
           .on_page({"Sensor wide", "mm", 1e-3, 1, 0.1}),
       number("sensor_height", {0.0, 1.0, true, false})
           .needed()
           .into(&CameraBody::sensor_height)
           .on_page({"Sensor high", "mm", 1e-3, 1, 0.1}),
       number("iso_low", iso_range).into(&CameraBody::iso_low).on_page({"ISO from", "", 1, 0, 10}),
       number("iso_high", iso_range).into(&CameraBody::iso_high).on_page({"ISO to", "", 1, 0, 100}),
       number("full_well_e", {0.0, 1e9, true, false})
           .into(&CameraBody::full_well_e)
           .on_page({"Full well", "e", 1, 0, 1000}),
       number("read_noise_e", {0.0, 1e6}).into(&CameraBody::read_noise_e).on_page({"Read noise", "e", 1, 1, 0.1}),
       number("watts", watts_range).into(&CameraBody::watts).on_page({"Draws", "W", 1, 1, 0.5}),
       number("mass", watts_range).into(&CameraBody::mass).on_page({"Mass", "kg", 1, 2, 0.05}),
       number("width", size_range)
           .into(&CameraBody::width)
           .means("Of the body: with all three it is seen in mirrors and keeps light off, behind a lens as long "
                  "as it "
                  "is deep")
           .on_page({"Body wide", "length", 1, 0, 0.005}),
       number("height", size_range).into(&CameraBody::height).on_page({"Body high", "length", 1, 0, 0.005}),
       number("depth", size_range).into(&CameraBody::depth).on_page({"Body deep", "length", 1, 0, 0.005}),
       own("measured_noise", {{"type", "array"},
                              {"maxItems", 100},
                              {"items",
                               {{"type", "array"},
                                {"items", {{"type", "number"}, {"exclusiveMinimum", 0}}},
                                {"minItems", 2},
                                {"maxItems", 2}}}})
           .into(&CameraBody::measured_noise)
           .means("[ISO, electrons] with rising ISO; used instead of read_noise_e"),
       entities("modes", mode_fields()).into(&CameraBody::modes)});
  return all;
}

const Fields& lens_fields() {
  static const Fields all = kit_fields<LensSpec>(
      {number("focal_low", focal_range)
           .needed()
           .into(&LensSpec::focal_low)
           .on_page({"Focal from", "mm", 1e-3, 1, 1}),
       number("focal_high", focal_range)
           .needed()
           .into(&LensSpec::focal_high)
           .on_page({"Focal to", "mm", 1e-3, 1, 1}),
       number("f_number_low", f_number_range).into(&LensSpec::f_number_low).on_page({"Widest f/", "", 1, 1, 0.1}),
       number("f_number_high", f_number_range)
           .into(&LensSpec::f_number_high)
           .on_page({"Smallest f/", "", 1, 0, 1}),
       number("close_focus", thickness_range)
           .into(&LensSpec::close_focus)
           .means("From the principal plane, along the axis")
           .on_page({"Nearest", "length", 1, 0, 0.01}),
       number("close_focus_mark", size_range)
           .into(&LensSpec::close_focus_mark)
           .means("The maker's figure, from the sensor's mark; nearest focus follows where the magnification is "
                  "known")
           .on_page({"Nearest, mark", "length", 1, 0, 0.01}),
       number("greatest_magnification", {0.0, 100.0, true, false})
           .into(&LensSpec::greatest_magnification)
           .on_page({"Magnifies to", "x", 1, 2, 0.05}),
       number("transmission", {0.3, 1.0})
           .into(&LensSpec::transmission)
           .means("Share of light that comes through: T-stop = f / sqrt(transmission)")
           .on_page({"Transmits", "%", 0.01, 0, 1}),
       number("mass", watts_range).into(&LensSpec::mass).on_page({"Mass", "kg", 1, 2, 0.05}),
       number("pupil_ratio", {0.0, 100.0, true, false})
           .into(&LensSpec::pupil_ratio)
           .on_page({"Pupil ratio", "", 1, 2, 0.05}),
       number("breathing", share)
           .into(&LensSpec::breathing)
           .means("Measured share of the field over the whole focus ring")
           .on_page({"Breathes", "%", 0.01, 1, 0.5})});
  return all;
}

const Fields& lux_fields() {
  static const Fields all{{number("illuminance_lx", lumens_range).needed().on_page({"Lux", "lx", 1, 0, 100}),
                           number("distance", size_range).needed().on_page({"Lux at", "length", 1, 0, 0.1})}};
  return all;
}

const Fields& light_kit_fields() {
  static const Fields all = kit_fields<LightKit>(
      {number("lumens", lumens_range).into(&LightKit::lumens).on_page({"Output", "lm", 1, 0, 100}),
       object("lux", lux_fields()).means("What a maker gives who gives no lumens"),
       number("candela", lumens_range).means("Along the axis").on_page({"Candela", "cd", 1, 0, 100}),
       number("beam_deg", full_angle).means("Full angle at half intensity").on_page({"Beam", "\u00b0", 1, 0, 1}),
       number("kelvin_low", kelvin_range).into(&LightKit::kelvin_low).on_page({"White from", "K", 1, 0, 100}),
       number("kelvin_high", kelvin_range).into(&LightKit::kelvin_high).on_page({"White to", "K", 1, 0, 100}),
       number("watts", watts_range).into(&LightKit::watts).on_page({"Draws", "W", 1, 0, 5}),
       number("ripple", share)
           .into(&LightKit::ripple)
           .means("Depth of its flicker; left out: not known")
           .on_page({"Flicker", "%", 0.01, 1, 0.5}),
       number("ripple_hz", {0.0, 1e6, true, false})
           .into(&LightKit::ripple_hz)
           .means("Left out: twice the mains")
           .on_page({"Flickers at", "Hz", 1, 0, 10}),
       number("duty", {0.0, 1.0, true, false})
           .into(&LightKit::duty)
           .means("Share of the time that a lamp dimmed by switching is on; it pulses at ripple_hz")
           .on_page({"Switched on for", "%", 0.01, 0, 5}),
       number("duv", {-0.05, 0.05})
           .into(&LightKit::duv)
           .means("How far its white is off the locus, CIE 1960; above 0 greener")
           .on_page({"Off the locus", "", 1, 4, 0.001}),
       number("warm_up_minutes", {0.0, 1440.0})
           .into(&LightKit::warm_up_minutes)
           .means("Until its light keeps still")
           .on_page({"Warms up", "min", 1, 0, 1}),
       object("front", front_fields())
           .into(&LightKit::front)
           .means("Of the lamp itself, where nothing is put before it: bare beads, a lens"),
       flag("hot").into(&LightKit::hot).means("Tungsten or discharge"),
       blob("ies", BlobUse::measured_light, "leave it out")
           .into(&LightKit::ies)
           .means("Blob of an IES LM-63 file")});
  return all;
}

const Fields& support_fields() {
  constexpr Range moving{0.0, 1e6, true, false}, turning{0.0, 1e5};
  static const Fields all = kit_fields<Support>(
      {open_choice("kind", support_names())
           .into(&Support::kind)
           .means("turntable, slider, head, stand, arm; others are kept"),
       number("load", watts_range).into(&Support::load).on_page({"Carries", "kg", 1, 1, 0.5}),
       number("rpm_low", turning).into(&Support::rpm_low).on_page({"Turns from", "/min", 1, 2, 0.1}),
       number("rpm_high", turning).into(&Support::rpm_high).on_page({"Turns to", "/min", 1, 1, 0.5}),
       number("travel", moving)
           .into(&Support::travel)
           .means("Of a slider, metres")
           .on_page({"Travel", "length", 1, 0, 0.05}),
       number("speed", moving)
           .into(&Support::speed)
           .means("Of a slider, metres a second")
           .on_page({"Fastest", "m/s", 1, 2, 0.01}),
       number("acceleration", moving)
           .into(&Support::acceleration)
           .means("Metres a second squared; of turntables and heads degrees")
           .on_page({"Picks up", "/s2", 1, 2, 0.05}),
       number("reach", size_range)
           .into(&Support::reach)
           .means("Of a stand or an arm: the highest its head stands over the surface, metres")
           .on_page({"Reaches", "length", 1, 0, 0.05}),
       number("length", size_range)
           .into(&Support::length)
           .means("Of an arm: how far level it holds its head from its foot, metres")
           .on_page({"Holds out", "length", 1, 0, 0.05}),
       number("repeat", {0.0, 90.0})
           .into(&Support::repeat)
           .means("How far off it comes back: metres, of turntables and heads degrees")
           .on_page({"Comes back within", "mm", 0.001, 2, 0.01}),
       number("radius", size_range)
           .into(&Support::radius)
           .means("Of a turntable's plate, metres")
           .on_page({"Plate radius", "length", 1, 0, 0.01}),
       number("steps_per_turn", whole(1.0, 1e6))
           .into(&Support::steps_per_turn)
           .means("Full steps of its motor's turn")
           .on_page({"Steps a turn", "", 1, 0, 10}),
       number("microsteps", whole(1.0, 1e4))
           .into(&Support::microsteps)
           .means("Of each full step")
           .on_page({"Microsteps", "", 1, 0, 1}),
       number("turn_travel", moving)
           .into(&Support::turn_travel)
           .means("How far a turn of the motor takes it: metres, of turntables and heads degrees (left out: 360)")
           .on_page({"A turn goes", "mm", 0.001, 1, 0.5}),
       number("backlash", {0.0, 90.0})
           .into(&Support::backlash)
           .means("Play: metres, of turntables and heads degrees")
           .on_page({"Play", "mm", 0.001, 3, 0.005}),
       number("torque", moving).into(&Support::torque).means("Newton metres")});
  return all;
}

const Fields& medium_fields() {
  static const Fields all = kit_fields<Supply>(
      {number("gigabytes", {0.0, 1e9}).into(&Supply::amount).on_page({"Holds", "GB", 1, 0, 16})});
  return all;
}
const Fields& battery_fields() {
  static const Fields all = kit_fields<Supply>(
      {number("watt_hours", {0.0, 1e9}).into(&Supply::amount).on_page({"Charge", "Wh", 1, 1, 1}),
       number("usable", share)
           .means("Share that can be used, 1 where left out")
           .on_page({"Usable", "%", 0.01, 0, 5})});
  return all;
}
const Fields& consumable_fields() {
  static const Fields all = kit_fields<Consumable>(
      {text("unit").into(&Consumable::unit),
       number("stock", {0.0, 1e9}).into(&Consumable::stock).on_page({"In stock", "", 1, 1, 1}),
       number("shelf_minutes", {0.0, 1e7, true, false})
           .into(&Consumable::shelf_minutes)
           .means("Good for so long once opened")
           .on_page({"Good for", "min", 1, 0, 5})});
  return all;
}
const Fields& modifier_fields() {
  static const Fields all = kit_fields<Modifier>(
      {choice("shape", light_shape_names())
           .into(&Modifier::shape)
           .means("rectangle, disc, dome (half a ball toward the aim) or bare: a ball about the lamp, lit all "
                  "round; left "
                  "out the lamp keeps its own face"),
       number("width", size_range).into(&Modifier::width).on_page({"Wide", "length", 1, 0, 0.05}),
       number("height", size_range).into(&Modifier::height).on_page({"High", "length", 1, 0, 0.05}),
       number("radius", size_range).into(&Modifier::radius).on_page({"Radius", "length", 1, 0, 0.05}),
       number("transmittance", share).into(&Modifier::transmittance).on_page({"Lets through", "%", 0.01, 0, 5}),
       number("grid_deg", full_angle).into(&Modifier::grid_deg).on_page({"Grid", "\u00b0", 1, 0, 5}),
       object("front", front_fields())
           .into(&Modifier::front)
           .means("How it shapes the light: cloth with its hot spot, beads, a lens, a tube, a gate"),
       flag("doors").into(&Modifier::doors).means("Comes with barn doors")},
      {{"shape", "rectangle", {"width", "height"}}, {"shape", "disc", {"radius"}}, {"shape", "dome", {"radius"}}});
  return all;
}
Fields stock_fields(const char* second, const char* label) {
  return kit_fields<CardStock>(
      {number("width", size_range).needed().into(&CardStock::width).on_page({"Wide", "length", 1, 0, 0.05}),
       number(second, size_range).needed().into(&CardStock::height).on_page({label, "length", 1, 0, 0.05}),
       object("material", material_fields())});
}

const Fields& card_fields() {
  static const Fields all{
      {text("id").needed().into(&Card::id), text("name").into(&Card::name),
       reference("kit", "kit/cards").into(&Card::kit).means("The card of kit.cards that it is"),
       numbers("place", 3, place_range).needed().into(&Card::place),
       numbers("aim", 3, place_range).needed().into(&Card::aim),
       number("roll_deg", angle_range).into(&Card::roll_deg),
       number("width", size_range).needed().into(&Card::width),
       number("height", size_range).needed().into(&Card::height), object("material", material_fields())}};
  return all;
}

const Fields& gear_fields() {
  static const Fields all{
      {text("id").needed().into(&Gear::id), text("name").into(&Gear::name),
       text("kind").into(&Gear::kind).means("stand, cable, operator, pedestal, block, glass; others are kept"),
       numbers("place", 3, place_range).needed().into(&Gear::place).means("Middle of its foot"),
       numbers("size", 3, size_range).into(&Gear::size).means("Wide, high, deep"),
       number("turn_deg", angle_range).into(&Gear::turn_deg).means("About the vertical"),
       choice("form", {"box", "round", "ridge"})
           .into(&Gear::form)
           .means("A round one is an ellipse wide and deep, a ridge half of one deep and high, as a cable under "
                  "its tape"),
       number("wall", thickness_range)
           .into(&Gear::wall)
           .means("Of a round one that is open below, as an upturned glass; left out it is solid"),
       object("material", material_fields()), flag("dressed").into(&Gear::dressed).means("It may be seen")}};
  return all;
}

const Fields& metered_fields() {
  static const Fields all{{number("illuminance_lx", {0.0, 1e7}).needed().into(&MeteredLight::illuminance_lx),
                           text("at").into(&MeteredLight::at).means("When it was read")}};
  return all;
}
const Fields& pin_fields() {
  static const Fields all{
      {text("id").needed().into(&Pin::id), text("name").into(&Pin::name),
       reference("with", "products")
           .into(&Pin::with)
           .means("The product that carries it along: `at` and `normal` are then from its foot, as it was made"),
       numbers("at", 3, place_range).needed().into(&Pin::at),
       numbers("normal", 3, place_range).into(&Pin::normal).means("Where the meter faces; left out: up"),
       object("measured", metered_fields()).into(&Pin::measured).means("What a hand meter read there")}};
  return all;
}

const Fields& sheet_fields() {
  static const Fields all{
      {number("thickness", {0.0, 0.5, true, false}).needed(), object("material", material_fields())}};
  return all;
}

}  // namespace

const Fields& surface_fields() {
  static const Fields all{
      {reference("kit", "kit/surfaces").into(&Surface::kit).means("The surface of kit.surfaces that it is"),
       number("width", size_range).needed().into(&Surface::width),
       number("depth", size_range).needed().into(&Surface::depth), object("material", material_fields()),
       object("sheet", sheet_fields()).means("A clear sheet laid on the surface, its top at height 0")}};
  return all;
}
const Fields& backdrop_fields() {
  static const Fields all{
      {reference("kit", "kit/backdrops").into(&Backdrop::kit).means("The backdrop of kit.backdrops that it is"),
       choice("kind", backdrop_names()).needed().into(&Backdrop::kind),
       number("distance", place_range).into(&Backdrop::distance),
       number("width", size_range).into(&Backdrop::width), number("height", size_range).into(&Backdrop::height),
       number("low", place_range).into(&Backdrop::low), number("tilt_deg", lean_range).into(&Backdrop::tilt_deg),
       number("radius", thickness_range).into(&Backdrop::radius),
       number("fold_depth", {0.0, 1.0})
           .into(&Backdrop::fold_depth)
           .means("Of a flat one that hangs in folds: from crest to hollow"),
       number("fold_pitch", {0.01, 10.0}).into(&Backdrop::fold_pitch).means("From crest to crest"),
       object("material", material_fields())},
      {{"kind", "flat", {"distance", "width", "height"}}, {"kind", "sweep", {"distance", "width", "height"}}}};
  return all;
}
const Fields& ambient_fields() {
  static const Fields all{{number("illuminance_lx", {0.0, 1e6}).into(&Setup::ambient_lx),
                           number("kelvin", kelvin_range).into(&Setup::ambient_kelvin)}};
  return all;
}

const Fields& product_fields() {
  static const Fields all{
      {text("id").needed().into(&Product::id), text("name").into(&Product::name),
       number("mass", {0.0, 1e6}).into(&Product::mass), entities("parts", part_fields()),
       object("label", label_fields()), entities("features", feature_fields()).into(&Product::features),
       object("built", built_fields()).means("The kind and measures that the parts were built from")}};
  return all;
}
const Fields& setup_fields() {
  static const Fields all{{text("id").needed().into(&Setup::id), text("name").into(&Setup::name),
                           reference("of", "setups")
                               .into(&Setup::of)
                               .means("The set-up that it is a variation of: a change there goes on to it in what "
                                      "both have alike"),
                           object("house_rules", house_rules_fields()), object("surface", surface_fields()),
                           object("backdrop", backdrop_fields()), object("ambient", ambient_fields()),
                           object("room", room_fields()), entities("gear", gear_fields()).into(&Setup::gear),
                           entities("pins", pin_fields()).into(&Setup::pins).means("Where light is metered"),
                           entities("lights", light_fields()), entities("cards", card_fields())}};
  return all;
}

const std::vector<std::pair<std::string, const Fields*>>& kit_lists_fields() {
  static const Fields cards = stock_fields("height", "High"), surfaces = stock_fields("depth", "Deep"),
                      backdrops = stock_fields("height", "High");
  static const std::vector<std::pair<std::string, const Fields*>> all{{"kit/cameras", &camera_fields()},
                                                                      {"kit/lenses", &lens_fields()},
                                                                      {"kit/lights", &light_kit_fields()},
                                                                      {"kit/supports", &support_fields()},
                                                                      {"kit/media", &medium_fields()},
                                                                      {"kit/batteries", &battery_fields()},
                                                                      {"kit/consumables", &consumable_fields()},
                                                                      {"kit/modifiers", &modifier_fields()},
                                                                      {"kit/surfaces", &surfaces},
                                                                      {"kit/backdrops", &backdrops},
                                                                      {"kit/cards", &cards}};
  return all;
}

}  // namespace cinnabar
