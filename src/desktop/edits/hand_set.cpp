// The numbers of what stands about the product: surface, backdrop, cards, bodies and the room.
#include <QColor>

#include "cinnabar/color/palette.h"
#include "cinnabar/color/white.h"
#include "cinnabar/desktop/edits/hand_maker.h"
#include "cinnabar/planning/set_bodies.h"

namespace cinnabar {
namespace {

/// Of what has a pattern laid on it.
void patternFields(HandMaker& m, const Material& material) {
  if (!material.texture) return;
  m.lengthMember("pattern", QObject::tr("Repeats every"), "material/texture/size", material.texture->size, 0.005,
                 0.02);
  m.degreesMember("pattern-turn", QObject::tr("Pattern turned"), "material/texture/turn_deg",
                  material.texture->turn_deg);
}
/// What a thing of the set reflects: how much, in which colour, how sharply.
void materialFields(HandMaker& m, const Session& s, const Material& material) {
  if (material.is_clear()) return;
  const std::string path = m.path() + "/material";
  const Json whole = value_at(s.document(), path).value_or(material_json(material));
  const bool patterned = material.texture.has_value();
  const Vec3 colour = patterned ? material.texture->ground : material.colour;
  const auto with = [path, whole](const char* key, const Json& value) -> Session::Values {
    Json changed = whole;
    changed[key] = value;
    return {{path, changed}};
  };
  const auto put = [with](const Vec3& c) { return with("colour", {tidied(c.x), tidied(c.y), tidied(c.z)}); };
  const auto percent = [](double v) { return q(fixed_text(v * 100, v < 0.095 ? 1 : 0)) + " %"; };
  const auto typed = [](const QString& t) { return numberTyped("%", 0.01)(t); };
  const double reflects = static_cast<double>(luminance(colour.as<float>())), most = largest(colour);
  m.add("reflects", patterned ? QObject::tr("Ground") : QObject::tr("Reflects"), reflects, 0.02, percent, typed,
        [=](double v) {
          const Vec3 hue = reflects > 1e-6 ? colour / reflects : Vec3{1, 1, 1};
          return put(hue * std::clamp(v, 0.0, reflects > 1e-6 ? reflects / most : 1.0));
        });
  // As a number of 24 bits, so that it is typed and shown like any other.
  const QColor shown(q(hex_of(colour)));
  m.add(
      "colour", QObject::tr("Colour"), static_cast<double>(shown.rgb() & 0xffffffu), 0.0,
      [](double v) { return QColor::fromRgb(static_cast<QRgb>(std::clamp(v, 0.0, 16777215.0))).name(); },
      [](const QString& t) {
        const QColor color(t.trimmed());
        return color.isValid() ? std::optional(static_cast<double>(color.rgb() & 0xffffffu)) : std::nullopt;
      },
      [put, was = static_cast<double>(shown.rgb() & 0xffffffu)](double v) -> Session::Values {
        if (v == was) return {};
        const QColor c = QColor::fromRgb(static_cast<QRgb>(std::clamp(v, 0.0, 16777215.0)));
        return put({srgb_decode(c.redF()), srgb_decode(c.greenF()), srgb_decode(c.blueF())});
      });
  if (material.kind == MaterialKind::satin || material.kind == MaterialKind::metal)
    m.add("rough", QObject::tr("Roughness"), material.roughness, 0.05, percent, typed,
          [with](double v) { return with("roughness", tidied(std::clamp(v, 0.02, 1.0))); });
  if (material.is_matte())
    m.add("sheen", QObject::tr("Sheen"), material.sheen, 0.05, percent, typed,
          [with](double v) { return with("sheen", tidied(std::clamp(v, 0.0, 1.0))); });
}
/// Of a sheet that light goes through.
void sheetFields(HandMaker& m, const Material& material) {
  if (material.kind != MaterialKind::translucent || material.scatters()) return;
  const auto percent = [](double v) { return q(fixed_text(v * 100, 0)) + " %"; };
  const auto typed = [](const QString& t) { return numberTyped("%", 0.01)(t); };
  m.member("through", QObject::tr("Lets through"), "material/transmittance", material.transmittance, 0.05, percent,
           typed, 0.0, 1.0);
  m.member("straight", QObject::tr("Straight on"), "material/forward", material.forward, 0.05, percent, typed, 0.0,
           1.0);
  m.degreesMember("within", QObject::tr("Within"), "material/lobe_deg", material.lobe_deg);
}

}  // namespace

/// Where a body stands and how large it is; what stands on it goes along.
void bodyFields(HandMaker& m, const Session& s, const Selection& selection) {
  const Gear body = s.setup()->gear[selection.index];
  const Session* session = &s;
  const auto changed = [session, selection, body](double Vec3::*what, bool size) {
    return [=](double v) {
      Vec3 place = body.place, measures = body.size;
      (size ? measures : place).*what = size ? std::max(0.001, v) : v;
      return body_changed(session->onSet(), selection, place, measures);
    };
  };
  m.length("wide", QObject::tr("Wide"), body.size.x, changed(&Vec3::x, true));
  m.length("high", QObject::tr("High"), body.size.y, changed(&Vec3::y, true));
  m.length("deep", QObject::tr("Deep"), body.size.z, changed(&Vec3::z, true));
  m.degreesMember("turn", QObject::tr("Turned"), "turn_deg", body.turn_deg);
  m.length("x", QObject::tr("To the right"), body.place.x, changed(&Vec3::x, false));
  m.length("y", QObject::tr("Foot at"), body.place.y, changed(&Vec3::y, false));
  m.length("z", QObject::tr("To the camera"), body.place.z, changed(&Vec3::z, false));
  m.readOnly("seen", QObject::tr("In the picture"),
             body.dressed ? QObject::tr("may be seen") : QObject::tr("must not be seen"));
  materialFields(m, s, body.material);
  patternFields(m, body.material);
}

/// The room's own measures.
void roomFields(HandMaker& m, const Session& s) {
  const Room& room = s.setup()->room;
  m.lengthMember("width", QObject::tr("Wide"), "width", room.width.value_or(4), 0.5, 0.1);
  m.lengthMember("depth", QObject::tr("Deep"), "depth", room.depth.value_or(5), 0.5, 0.1);
  m.lengthMember("tall", QObject::tr("High"), "height", room.height.value_or(2.5), 0.5, 0.1);
  m.member(
      "reflects", QObject::tr("Walls reflect"), "reflectance", room.reflectance, 0.05,
      [](double v) { return q(fixed_text(v * 100, 0)) + " %"; },
      [](const QString& t) { return numberTyped("%", 0.01)(t); }, 0.0, 1.0);
  m.degrees(
      "north", QObject::tr("North"), room.north_deg.value_or(0),
      [path = pointer_of(s.onSet(), {Selection::Kind::room, 0})](double v) -> Session::Values {
        return {{path + "/north_deg", tidied(v)}};
      },
      true);
  const auto at = [path = pointer_of(s.onSet(), {Selection::Kind::room, 0}) + "/place",
                   place = room.place](int axis) {
    return [path, place, axis](double v) -> Session::Values {
      Vec3 to = place;
      (axis == 0 ? to.x : axis == 1 ? to.y : to.z) = axis == 1 ? -v : v;
      return {{path, point_json(to)}};
    };
  };
  m.length("under", QObject::tr("Floor under the set"), -room.place.y, at(1), 0.05);
  m.length("x", QObject::tr("To the right"), room.place.x, at(0), 0.05);
  m.length("z", QObject::tr("To the camera"), room.place.z, at(2), 0.05);
}

void backdropFields(HandMaker& m, const Session& s) {
  const Backdrop& b = s.setup()->backdrop;
  m.lengthMember("distance", QObject::tr("Behind"), "distance", b.distance, -1e3, 0.05);
  m.lengthMember("width", QObject::tr("Wide"), "width", b.width, 0.05, 0.05);
  m.lengthMember("tall", QObject::tr("Tall"), "height", b.height, 0.05, 0.05);
  m.lengthMember("low", QObject::tr("Foot at"), "low", b.low, -1e3, 0.01);
  m.degreesMember("tilt", QObject::tr("Leans back"), "tilt_deg", b.tilt_deg);
  if (b.kind == BackdropKind::sweep)
    m.lengthMember("radius", QObject::tr("Sweep radius"), "radius", b.radius, 0.0, 0.02);
  if (b.kind == BackdropKind::flat) {
    m.lengthMember("folds", QObject::tr("Folds deep"), "fold_depth", b.fold_depth, 0.0, 0.01);
    if (b.fold_depth > 0)
      m.lengthMember("folds-apart", QObject::tr("Folds apart"), "fold_pitch", b.fold_pitch, 0.01, 0.01);
  }
  materialFields(m, s, b.material);
  patternFields(m, b.material);
}

void surfaceFields(HandMaker& m, const Session& s, const Selection& selection) {
  m.lengthMember("width", QObject::tr("Wide"), "width", s.setup()->surface->width, 0.05, 0.05);
  m.lengthMember("depth", QObject::tr("Deep"), "depth", s.setup()->surface->depth, 0.05, 0.05);
  m.length(
      "sheet", QObject::tr("Glass sheet"), s.setup()->surface->sheet,
      [path = pointer_of(s.onSet(), selection) + "/sheet",
       on = s.setup()->surface->sheet > 0](double v) -> Session::Values {
        if (v <= 0) return on ? Session::Values{{path, std::nullopt}} : Session::Values{};
        if (on) return {{path + "/thickness", std::min(v, 0.1)}};
        return {{path, Json{{"thickness", std::min(v, 0.1)}, {"material", {{"kind", "glass"}, {"ior", 1.52}}}}}};
      },
      0.001);
  materialFields(m, s, s.setup()->surface->material);
  patternFields(m, s.setup()->surface->material);
}

void cardFields(HandMaker& m, const Session& s, const Selection& selection) {
  const Card& c = s.setup()->cards[selection.index];
  const auto [place, aim] = *place_and_aim(s.onSet(), selection);
  m.aimed(selection, place, aim);
  m.lengthMember("width", QObject::tr("Wide"), "width", c.width);
  m.lengthMember("tall", QObject::tr("Tall"), "height", c.height);
  materialFields(m, s, c.material);
  sheetFields(m, c.material);
  patternFields(m, c.material);
}

}  // namespace cinnabar
