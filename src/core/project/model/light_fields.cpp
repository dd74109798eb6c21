// Shapes of lights, of what stands before them, and of the room whose windows are lights too.
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/model/ranges.h"

namespace cinnabar {
namespace {

const Fields& doors_fields() {
  static const Fields all{{number("length", size_range).needed().into(&Doors::length),
                           number("top_deg", leaf_range).into(&Doors::top_deg),
                           number("bottom_deg", leaf_range).into(&Doors::bottom_deg),
                           number("left_deg", leaf_range).into(&Doors::left_deg),
                           number("right_deg", leaf_range).into(&Doors::right_deg)}};
  return all;
}

const Fields& passed_fields() {
  static const Fields all{{number("nm", {300.0, 900.0}).needed().into(&PassedAt::nm).means("Wavelength"),
                           number("share", share).needed().into(&PassedAt::share).means("Let through")}};
  return all;
}

const Fields& window_fields() {
  static const Fields all{
      {text("id").needed().into(&RoomWindow::id), text("name").into(&RoomWindow::name),
       choice("wall", wall_names()).needed().into(&RoomWindow::wall),
       number("along", place_range)
           .into(&RoomWindow::along)
           .means("Its middle from the wall's: to camera right, in the sides toward the camera"),
       number("low", place_range)
           .into(&RoomWindow::low)
           .means("Its sill over the room's floor; in the ceiling its middle toward the camera"),
       number("width", size_range).needed().into(&RoomWindow::width),
       number("height", size_range).needed().into(&RoomWindow::height),
       number("transmittance", share).into(&RoomWindow::transmittance).means("Of its panes"),
       number("curtain", share)
           .into(&RoomWindow::curtain)
           .means("Share that a net or sheet before it lets through; left out: none hangs there"),
       flag("on").into(&RoomWindow::on).means("False: blacked out")}};
  return all;
}

}  // namespace

/// What shapes a light before its grid; which of them count goes by the kind.
const Fields& front_fields() {
  static const Fields all{
      {choice("kind", front_names()).needed().into(&LightFront::kind),
       number("gap", thickness_range)
           .into(&LightFront::gap)
           .means("From the lamp to its cloth, or from beads to the sheet before them; left out: lit evenly, or "
                  "bare beads")
           .on_page({"Lamp to cloth", "length", 1, 0, 0.01}),
       number("exponent", {0.0, 100.0})
           .into(&LightFront::exponent)
           .means("Of the lamp's, or of a bead's, cosine")
           .on_page({"Cosine power", "", 1, 1, 0.5}),
       number("forward", share)
           .into(&LightFront::forward)
           .means("Share of what the cloth lets through that goes nearly straight on")
           .on_page({"Goes straight on", "%", 0.01, 0, 5}),
       number("lobe_deg", {1.0, 60.0})
           .into(&LightFront::lobe_deg)
           .means("From the ray to where that share gives half")
           .on_page({"Within", "\u00b0", 1, 0, 1}),
       number("baffle", thickness_range)
           .into(&LightFront::baffle)
           .means("How far behind the outer cloth an inner one hangs; left out: none")
           .on_page({"Inner cloth behind", "length", 1, 0, 0.01}),
       number("pitch", fine_range)
           .into(&LightFront::pitch)
           .means("Of beads, from middle to middle")
           .on_page({"Beads apart", "mm", 1e-3, 1, 0.5}),
       number("bead_radius", fine_range)
           .into(&LightFront::bead_radius)
           .means("Left out: a quarter of the pitch")
           .on_page({"Bead radius", "mm", 1e-3, 1, 0.1}),
       number("source_radius", size_range)
           .into(&LightFront::source_radius)
           .means("Of the lamp's disc behind a lens, whose lumens the light's are")
           .on_page({"Lamp radius", "mm", 1e-3, 1, 0.5}),
       number("focal", size_range).into(&LightFront::focal).on_page({"Focal length", "mm", 1e-3, 0, 5}),
       number("distance", size_range)
           .into(&LightFront::distance)
           .means("From lamp or gate to the lens; a lamp at most the focal length")
           .on_page({"Behind its lens", "mm", 1e-3, 0, 5}),
       number("length", size_range).into(&LightFront::length).on_page({"Tube", "length", 1, 0, 0.01}),
       number("mouth_radius", size_range)
           .into(&LightFront::mouth_radius)
           .on_page({"Mouth radius", "mm", 1e-3, 0, 5}),
       number("gate_width", size_range).into(&LightFront::gate_width).on_page({"Gate wide", "mm", 1e-3, 0, 1}),
       number("gate_height", size_range).into(&LightFront::gate_height).on_page({"Gate high", "mm", 1e-3, 0, 1})},
      {{"kind", "beads", {"pitch"}},
       {"kind", "lens", {"source_radius", "focal", "distance"}},
       {"kind", "tube", {"length", "mouth_radius"}},
       {"kind", "gate", {"gate_width", "gate_height", "focal", "distance"}}}};
  return all;
}

Json front_json(const LightFront& front) {
  Json out{{"kind", front_names()[static_cast<std::size_t>(front.kind)]}};
  for (const FrontMeasure& m : front_measures(front.kind)) out[m.key] = front.*m.value;
  if (front.kind == FrontKind::beads && front.bead_radius <= 0.0) out.erase("bead_radius");  // by the pitch
  return out;
}
void put_face(Json& light, const Modifier& modifier) {
  light["modifier"] = modifier.id, light["width"] = modifier.width, light["height"] = modifier.height;
  light["transmittance"] = modifier.transmittance;
  if (modifier.grid_deg) light["grid_deg"] = *modifier.grid_deg;
  if (modifier.front) light["front"] = front_json(*modifier.front);
}
Json usual_front(FrontKind kind) {
  LightFront front{.kind = kind};
  switch (kind) {
    case FrontKind::cloth:
      front.gap = 0.25, front.forward = 0.2;
      break;
    case FrontKind::beads:
      break;
    case FrontKind::lens:
      front.source_radius = 0.006, front.focal = 0.08, front.distance = 0.06;
      break;
    case FrontKind::tube:
      front.length = 0.15, front.mouth_radius = 0.03;
      break;
    case FrontKind::gate:
      front.distance = 0.12;
      break;
  }
  return front_json(front);
}

const Fields& light_fields() {
  static const Fields all{
      {text("id").needed().into(&Light::id),
       text("name").into(&Light::name),
       reference("kit", "kit/lights").into(&Light::kit),
       reference("modifier", "kit/modifiers").into(&Light::modifier).means("Of kit.modifiers, standing before it"),
       flag("on").into(&Light::on),
       numbers("place", 3, place_range).needed().into(&Light::place),
       numbers("aim", 3, place_range).needed().into(&Light::aim),
       number("roll_deg", angle_range).into(&Light::roll_deg),
       choice("shape", light_shape_names()).needed().into(&Light::shape),
       number("width", size_range).into(&Light::width),
       number("height", size_range).into(&Light::height),
       number("radius", size_range).into(&Light::radius),
       number("length", size_range).into(&Light::length),
       number("lumens", lumens_range).into(&Light::lumens),
       number("transmittance", share).into(&Light::transmittance),
       number("dimmer", share).into(&Light::dimmer),
       number("kelvin", kelvin_range).into(&Light::kelvin),
       number("gel_mired", {-1000.0, 1000.0}).into(&Light::gel_mired),
       number("gel_transmittance", share).into(&Light::gel_transmittance),
       numbers("gel_bands", 3, share)
           .into(&Light::gel_bands)
           .means("A coloured gel: shares of linear BT.709 red, green and blue"),
       objects("gel_curve", passed_fields())
           .into(&Light::gel_curve)
           .means("A coloured gel by its spectrum, instead of gel_bands"),
       object("film", polariser_fields()).into(&Light::film).means("A polarising film before it"),
       number("scrim_stops", {0.0, 10.0})
           .into(&Light::scrim_stops)
           .means("What wire nets before it take: single half a stop, double one"),
       number("grid_deg", full_angle).into(&Light::grid_deg),
       object("doors", doors_fields())
           .into(&Light::doors)
           .means("Barn doors of a rectangle or disc: each leaf's opening from straight ahead, 90 flat beside the "
                  "face; "
                  "sides as seen looking along the aim"),
       object("front", front_fields())
           .into(&Light::front)
           .means("What shapes the light of a rectangle or disc: cloth with its hot spot, beads; of a disc also a "
                  "lens, a tube or a gate"),
       choice("meant_for", aim_names())
           .into(&Light::meant_for)
           .means("What the light is set for; left out, what its aim is nearer to"),
       flag("colour_meant").into(&Light::colour_meant).means("Its colour is on purpose: no white that is off"),
       flag("dressed").into(&Light::dressed).means("It may be seen: a practical lamp"),
       flag("daylight").into(&Light::daylight).means("A window or the sky: nothing to be carried in")},
      {{"shape", "rectangle", {"width", "height"}},
       {"shape", "disc", {"radius"}},
       {"shape", "tube", {"radius", "length"}},
       {"shape", "bare", {"radius"}},
       {"shape", "dome", {"radius"}}},
      {},
      true};
  return all;
}

const Fields& room_fields() {
  static const Fields all{
      {number("north_deg", angle_range)
           .into(&Room::north_deg)
           .means("Bearing of north on the floor: 0 toward the camera, growing to its right"),
       number("width", size_range).into(&Room::width), number("depth", size_range).into(&Room::depth),
       number("height", size_range).into(&Room::height),
       number("reflectance", share).into(&Room::reflectance).means("Of walls, ceiling and floor"),
       numbers("place", 3, place_range)
           .into(&Room::place)
           .means("The middle of its floor; left out 0.75 m under the surface"),
       choice("sky", sky_names()).into(&Room::sky).means("Over its windows"),
       number("ground", share).into(&Room::ground).means("Reflectance of what lies outside"),
       flag("dressed").into(&Room::dressed).means("Its walls may be seen"),
       entities("windows", window_fields()).into(&Room::windows)}};
  return all;
}

}  // namespace cinnabar
