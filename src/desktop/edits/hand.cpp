#include "cinnabar/desktop/edits/hand.h"

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/hand_maker.h"
#include "cinnabar/forecast/measures/shining.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/project/model/windows.h"
#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

void lightFields(HandMaker& m, const Session& s, const Selection& selection, double lux,
                 const std::vector<double>& shares) {
  const Light& l = s.setup()->lights[selection.index];
  const auto [place, aim] = *place_and_aim(s.onSet(), selection);
  m.aimed(selection, place, aim);
  m.member(
      "dimmer", QObject::tr("Dimmer"), "dimmer", l.dimmer, 0.01,
      [](double v) { return q(fixed_text(v * 100, 0)) + " %"; },
      [](const QString& t) { return numberTyped("%", 0.01)(t); }, 0.0, 1.0);
  m.member("white", QObject::tr("White"), "kelvin", l.kelvin, 100, numberShown("K"), numberTyped("K"), 1000,
           40000);
  if (l.shape == LightShape::rectangle) {
    m.lengthMember("width", QObject::tr("Wide"), "width", l.width);
    m.lengthMember("tall", QObject::tr("Tall"), "height", l.height);
  } else {
    m.lengthMember("radius", QObject::tr("Radius"), "radius", l.radius, 0.001, 0.005);
    if (l.shape == LightShape::tube) m.lengthMember("tall", QObject::tr("Long"), "length", l.length);
  }
  m.member("lumens", QObject::tr("Output"), "lumens", l.lumens, 100, numberShown("lm"), numberTyped("lm"), 0, 1e9);
  const Session* session = &s;
  m.add(
      "grid", QObject::tr("Grid"), l.grid_deg.value_or(0), 5,
      [](double v) { return v > 0 ? q(fixed_text(v, 0)) + QChar(0x00B0) : QObject::tr("none"); },
      [](const QString& t) { return t.trimmed() == QObject::tr("none") ? std::optional(0.0) : degreesTyped(t); },
      [session, selection](double v) -> Session::Values {
        const std::string pointer = pointer_of(session->onSet(), selection) + "/grid_deg";
        if (v <= 0 && !value_at(session->document(), pointer)) return {};
        return {{pointer, v > 0 ? std::optional<Json>(std::min(170.0, v)) : std::nullopt}};
      });
  if (l.film) m.degreesMember("film", QObject::tr("Film at"), "film/angle_deg", l.film->angle_deg);
  if (const auto edge = !s.shot() ? std::nullopt
                                  : soft_edge(s.project(), *s.shot(), *s.setup(),
                                              light_at(l, *s.shot(), s.setTime()), s.setTime()))
    m.readOnly("softness", QObject::tr("Softness"),
               QObject::tr("%1 mm edge").arg(q(number_text(edge->across * 1e3, 2))));
  if (selection.index < shares.size())
    m.readOnly("reading", QObject::tr("Reading"),
               QObject::tr("%1 lx").arg(q(number_text(lux * shares[selection.index], 4))));
}

/// A window's measures in its wall, and what hangs before it.
void windowFields(HandMaker& m, const Session& s, const Selection& selection) {
  const Setup& setup = *s.setup();
  const Light& light = setup.lights[selection.index];
  const RoomWindow& w = setup.room.windows[*light.window];
  const auto percent = [](double v) { return q(fixed_text(v * 100, 0)) + " %"; };
  m.lengthMember("along", QObject::tr("Along its wall"), "along", w.along, -100, 0.05);
  m.lengthMember("low", w.wall == RoomWall::ceiling ? QObject::tr("To the camera") : QObject::tr("Sill"), "low",
                 w.low, -100, 0.05);
  m.lengthMember("width", QObject::tr("Wide"), "width", w.width, 0.05, 0.05);
  m.lengthMember("tall", QObject::tr("Tall"), "height", w.height, 0.05, 0.05);
  m.member(
      "panes", QObject::tr("Panes let in"), "transmittance", w.transmittance, 0.05, percent,
      [](const QString& t) { return numberTyped("%", 0.01)(t); }, 0.0, 1.0);
  static constexpr double bare = 1.05;  // a step over a curtain that lets all through
  const std::string pointer = pointer_of(s.onSet(), selection) + "/curtain";
  m.add(
      "curtain", QObject::tr("Curtain lets in"), w.curtain.value_or(bare), 0.05,
      [percent](double v) { return v > 1.0 ? QObject::tr("none hangs") : percent(v); },
      [](const QString& t) {
        return t.trimmed().startsWith(QObject::tr("none")) ? std::optional(bare) : numberTyped("%", 0.01)(t);
      },
      [pointer, had = w.curtain.has_value()](double v) -> Session::Values {
        if (v > 1.0 && !had) return {};
        return {{pointer, v > 1.0 ? std::nullopt : std::optional<Json>(std::max(0.0, std::round(v * 100) / 100))}};
      });
  if (const auto sun = sun_over_room(s.project(), setup.north_deg)) {
    const double bearing = std::remainder(sun->bearing_deg, 360.0);
    m.readOnly("sun", QObject::tr("Sun"),
               sun->altitude_deg > 0
                   ? QObject::tr("%1\u00b0 up, %2\u00b0 %3")
                         .arg(q(fixed_text(sun->altitude_deg, 0)), q(fixed_text(std::abs(bearing), 0)),
                              bearing >= 0 ? QObject::tr("right") : QObject::tr("left"))
                   : QObject::tr("is down"));
    m.readOnly("white", QObject::tr("White"), q(fixed_text(light.kelvin, 0)) + " K");
  } else {
    m.readOnly("sun", QObject::tr("Sun"), QObject::tr("date, hour, place and north are wanted"));
  }
}

/// What stands before a lamp and shapes its light, by its kind.
void frontFields(HandMaker& m, const Light& l) {
  if (!l.front) return;
  const LightFront& f = *l.front;
  const auto percent = [](double v) { return q(fixed_text(v * 100, 0)) + " %"; };
  switch (f.kind) {
    case FrontKind::cloth:
      m.lengthMember("front-gap", QObject::tr("Lamp to cloth"), "front/gap", f.gap, 0.0);
      m.lengthMember("front-baffle", QObject::tr("Inner cloth"), "front/baffle", f.baffle, 0.0);
      m.member(
          "front-forward", QObject::tr("Straight on"), "front/forward", f.forward, 0.05, percent,
          [](const QString& t) { return numberTyped("%", 0.01)(t); }, 0.0, 1.0);
      break;
    case FrontKind::beads:
      m.lengthMember("front-pitch", QObject::tr("Beads apart"), "front/pitch", f.pitch, 0.001, 0.001);
      m.lengthMember("front-gap", QObject::tr("To the sheet"), "front/gap", f.gap, 0.0, 0.005);
      break;
    case FrontKind::lens:
      // From spot, the lamp in the focus, to flood, near the lens.
      m.add(
          "front-spot", QObject::tr("Lamp to lens"), f.distance, 0.002,
          [](double v) { return q(number_text(v * 1e3, 3)) + " mm"; },
          [](const QString& t) { return numberTyped("mm", 1e-3)(t); },
          [most = f.focal, path = m.path()](double v) -> Session::Values {
            return {{path + "/front/distance", tidied(std::clamp(v, 0.002, most))}};
          });
      break;
    case FrontKind::tube:
      m.lengthMember("front-length", QObject::tr("Tube"), "front/length", f.length);
      m.lengthMember("front-mouth", QObject::tr("Its mouth"), "front/mouth_radius", f.mouth_radius, 0.001, 0.005);
      break;
    case FrontKind::gate:
      m.lengthMember("front-gate-wide", QObject::tr("Gate wide"), "front/gate_width", f.gate_width, 0.0005, 0.001);
      m.lengthMember("front-gate-high", QObject::tr("Gate high"), "front/gate_height", f.gate_height, 0.0005,
                     0.001);
      break;
  }
}

/// The four leaves of its doors, where it has them: a row of their own.
void doorFields(HandMaker& m, const Light& l) {
  if (!l.doors) return;
  const struct {
    const char *id, *key;
    QString label;
    double now;
  } leaves[] = {{"door-top", "doors/top_deg", QObject::tr("Top door"), l.doors->top_deg},
                {"door-bottom", "doors/bottom_deg", QObject::tr("Bottom door"), l.doors->bottom_deg},
                {"door-left", "doors/left_deg", QObject::tr("Left door"), l.doors->left_deg},
                {"door-right", "doors/right_deg", QObject::tr("Right door"), l.doors->right_deg}};
  for (const auto& leaf : leaves)
    m.member(
        leaf.id, leaf.label, leaf.key, leaf.now, 5, [](double v) { return q(fixed_text(v, 0)) + QChar(0x00B0); },
        degreesTyped, -80, 90);
}

void cameraFields(HandMaker& m, const Session& s, const Selection& selection) {
  const ShotCamera& c = *s.shot()->camera;
  const ShotOptics o = shot_optics(s.project(), c);
  const auto [place, aim] = *place_and_aim(s.onSet(), selection);
  m.aimed(selection, place, aim);
  m.member(
      "focal", QObject::tr("Lens"), "focal", c.focal, 0.001,
      [](double v) { return q(number_text(v * 1e3, 3)) + " mm"; },
      [](const QString& t) { return numberTyped("mm", 1e-3)(t); }, o.focal_low, o.focal_high);
  m.lengthMember("focus", QObject::tr("Focus"), "focus", c.focus, c.focal * 1.02, 0.002);
  m.member(
      "aperture", QObject::tr("Aperture"), "f_number", c.f_number, 0.1,
      [](double v) { return "f/" + q(number_text(v, 3)); },
      [](const QString& t) {
        QString n = t.trimmed();
        n.remove("f/");
        return numberTyped()(n);
      },
      o.f_number_low, o.f_number_high);
  m.add(
      "shutter", QObject::tr("Shutter"), 1.0 / c.shutter_time, 1,
      [](double v) { return q(shutter_text(1.0 / std::max(1e-3, v))); },
      [](const QString& t) -> std::optional<double> {
        QString n = t.trimmed();
        if (n.startsWith("1/")) return numberTyped()(n.mid(2));
        if (n.endsWith("s")) n.chop(1);
        const auto v = numberTyped()(n);
        return v && *v > 0 ? std::optional(*v < 1 ? 1.0 / *v : *v) : std::nullopt;
      },
      [path = pointer_of(s.onSet(), selection), rate = o.rate](double v) -> Session::Values {
        return {{path + "/shutter_time", 1.0 / std::clamp(v, rate, 1e5)}};
      });
  m.member("iso", QObject::tr("ISO"), "iso", c.iso, 50, numberShown(""), numberTyped(), o.iso_low, o.iso_high);
  m.member("nd", QObject::tr("Neutral density"), "nd_stops", c.nd_stops, 1, numberShown(QObject::tr("stops")),
           numberTyped(QObject::tr("stops")), 0, 20);
  m.add(
      "polariser", QObject::tr("Polariser"), c.polariser ? c.polariser->angle_deg : -5.0, 5,
      [](double v) { return v < 0 ? QObject::tr("none") : q(fixed_text(v, 0)) + QChar(0x00B0); },
      [](const QString& t) {
        return t.trimmed().startsWith(QObject::tr("none")) ? std::optional(-5.0) : degreesTyped(t);
      },
      [path = pointer_of(s.onSet(), selection) + "/polariser",
       had = c.polariser.has_value()](double v) -> Session::Values {
        if (v < 0) return had ? Session::Values{{path, std::nullopt}} : Session::Values{};
        const double angle = std::fmod(v, 180.0);
        return had ? Session::Values{{path + "/angle_deg", angle}}
                   : Session::Values{{path, Json{{"angle_deg", angle}}}};
      });
  m.member("balance", QObject::tr("Balance"), "balance_k", c.balance_k, 100, numberShown("K"), numberTyped("K"),
           1667, 25000);
  const double n = effective_f_number(camera_at(*s.shot(), s.setTime()), c.f_number, o.pupil_ratio);
  m.readOnly("effective", QObject::tr("Works as"), "f/" + q(number_text(n, 3)));
}

void productFields(HandMaker& m, const Session& s, const Selection& selection) {
  const ShotProduct& placed = s.shot()->products[selection.index];
  const Project& project = s.project();
  std::size_t index = 0;
  while (index < project.products.size() && project.products[index]->id != placed.product) ++index;
  const Session* session = &s;
  const Vec3 place = place_and_aim(s.onSet(), selection)->first;
  m.length("x", QObject::tr("To the right"), place.x, [=](double v) {
    return carried_to(session->onSet(), selection, {v, place.y, place.z}, false);
  });
  m.length("z", QObject::tr("To the camera"), place.z, [=](double v) {
    return carried_to(session->onSet(), selection, {place.x, place.y, v}, false);
  });
  m.degreesMember("turn", QObject::tr("Turned"), "turn_deg", placed.turn_deg);
  if (index >= project.products.size()) return;
  const Product& p = *project.products[index];
  const std::string path = "/products/" + std::to_string(index);
  const Extent box = extent(p);
  const double low = box.low, high = box.high, wide = box.width();
  // The product's own measures: height stretches every outline and the label with it, width every radius.
  const auto stretched = [=](double wider, double taller) {
    return stretched_product(session->document(), session->project(), index, wider, taller);
  };
  const bool given_by_outlines =
      std::none_of(p.parts.begin(), p.parts.end(), [](const Part& part) { return part.mesh != nullptr; });
  if (given_by_outlines) {
    m.length(
        "tall", QObject::tr("Tall"), high - low,
        [=, h = high - low](double v) {
          return h > 0 ? stretched(1.0, std::max(0.002, v) / h) : Session::Values{};
        },
        0.001);
    m.length(
        "width", QObject::tr("Wide"), wide,
        [=](double v) { return wide > 0 ? stretched(std::max(0.001, v) / wide, 1.0) : Session::Values{}; }, 0.001);
  }
  m.add(
      "mass", QObject::tr("Mass"), p.mass, 0.01, [](double v) { return q(number_text(v, 3)) + " kg"; },
      [](const QString& t) { return numberTyped("kg")(t); },
      [path](double v) -> Session::Values {
        return {{path + "/mass", tidied(std::max(0.0, v))}};
      });
  if (!p.label) return;
  m.length(
      "label-low", QObject::tr("Label from"), p.label->low,
      [=, top = p.label->high](double v) -> Session::Values {
        return {{path + "/label/low", tidied(std::min(v, top - 0.001))}};
      },
      0.001);
  m.length(
      "label-high", QObject::tr("Label to"), p.label->high,
      [=, bottom = p.label->low](double v) -> Session::Values {
        return {{path + "/label/high", tidied(std::max(v, bottom + 0.001))}};
      },
      0.001);
  m.degrees("label-arc", QObject::tr("Label round"), p.label->arc_deg, [=](double v) -> Session::Values {
    return {{path + "/label/arc_deg", std::clamp(v, 1.0, 360.0)}};
  });
}

}  // namespace

QString nameOf(const Session& s, const Selection& selection) { return q(name_of(s.onSet(), selection)); }

Hand handOf(const Session& s, double lux, const std::vector<double>& shares) {
  const Selection selection = s.selection();
  Hand hand;
  if (!s.shot() || selection.kind == Selection::Kind::none) return hand;
  const QString name = nameOf(s, selection);
  HandMaker m(s, pointer_of(s.onSet(), selection), name);
  hand.name = name;
  switch (selection.kind) {
    case Selection::Kind::light:
      if (s.setup()->lights[selection.index].window) {
        windowFields(m, s, selection);
        break;
      }
      lightFields(m, s, selection, lux, shares);
      if (value_at(s.document(), m.path() + "/front"))  // else it is the lamp's own
        frontFields(m, s.setup()->lights[selection.index]);
      if (s.setup()->lights[selection.index].doors)  // the doors take its room
        std::erase_if(m.fields, [](const HandField& f) { return f.spec.id == "softness"; });
      doorFields(m, s.setup()->lights[selection.index]);
      break;
    case Selection::Kind::camera:
      cameraFields(m, s, selection);
      break;
    case Selection::Kind::product:
      productFields(m, s, selection);
      break;
    case Selection::Kind::effect: {
      const Vec3 place = place_and_aim(s.onSet(), selection)->first;
      const auto at = [path = pointer_of(s.onSet(), selection) + "/place", place](int axis) {
        return [path, place, axis](double v) -> Session::Values {
          Vec3 to = place;
          (axis == 0 ? to.x : axis == 1 ? to.y : to.z) = v;
          return {{path, point_json(to)}};
        };
      };
      m.length("x", QObject::tr("To the right"), place.x, at(0));
      m.length("y", QObject::tr("Up"), place.y, at(1));
      m.length("z", QObject::tr("To the camera"), place.z, at(2));
      break;
    }
    case Selection::Kind::backdrop:
      backdropFields(m, s);
      break;
    case Selection::Kind::surface:
      surfaceFields(m, s, selection);
      break;
    case Selection::Kind::card:
      cardFields(m, s, selection);
      break;
    case Selection::Kind::body:
      bodyFields(m, s, selection);
      break;
    case Selection::Kind::room:
      roomFields(m, s);
      break;
    case Selection::Kind::none:
      break;
  }
  hand.fields = std::move(m.fields);
  return hand;
}

QString nameOfMet(const Session& session, Role role, int thing) {
  const auto at = static_cast<std::size_t>(thing);
  const Setup* setup = session.setup();
  const auto named = [&](Selection::Kind kind, std::size_t count) {
    return thing >= 0 && at < count ? nameOf(session, {kind, at}) : QString();
  };
  if (role == Role::gear && thing < 0) return QObject::tr("the camera");
  switch (role) {
    case Role::light:
      return named(Selection::Kind::light, setup ? setup->lights.size() : 0);
    case Role::card:
      return named(Selection::Kind::card, setup ? setup->cards.size() : 0);
    case Role::gear:
      return named(Selection::Kind::body, setup ? setup->gear.size() : 0);
    case Role::product:
      return named(Selection::Kind::product, session.shot() ? session.shot()->products.size() : 0);
    case Role::backdrop:
      return QObject::tr("backdrop");
    case Role::surface:
      return QObject::tr("surface");
    case Role::room:
      return QObject::tr("the room");
    default:
      return QObject::tr("something");
  }
}

}  // namespace cinnabar
