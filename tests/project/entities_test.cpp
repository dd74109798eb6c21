// Entities: what is left out has the document's default, and what did not change is not read again.
#include "cinnabar/project/model/entities.h"

#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/names.h"
#include "worlds.h"

namespace cinnabar {
namespace {

TEST(Defaults, AreThoseOfTheDocument) {
  Json doc = worlds::bare();
  doc["kit"]["lights"][0]["kelvin_high"] = 4000;
  doc["setups"][0]["lights"] = Json::array({{{"id", "l"},
                                             {"kit", "led"},
                                             {"place", {0, 1, 0}},
                                             {"aim", {0, 0, 0}},
                                             {"shape", "disc"},
                                             {"radius", 0.2}}});
  doc["shots"][0]["camera"] = {
      {"camera", "body"}, {"mode", "m25"}, {"lens", "fifty"}, {"place", {0, 0, 2}}, {"aim", {0, 0, 0}}};
  const Project p = worlds::read(doc);
  const Light& l = p.setups[0]->lights[0];
  EXPECT_TRUE(l.on);
  EXPECT_EQ(l.dimmer, 1);
  EXPECT_EQ(l.transmittance, 1);
  EXPECT_EQ(l.gel_mired, 0);
  EXPECT_EQ(l.roll_deg, 0);
  EXPECT_EQ(l.lumens, 6000);  // the kit's
  EXPECT_EQ(l.kelvin, 4000);  // 5600, held to what the kit can
  EXPECT_FALSE(l.grid_deg);
  EXPECT_NEAR(l.full_luminance(), 6000 / (pi * pi * 0.04), 1e-9);
  const ShotCamera& c = *p.shots[0]->camera;
  EXPECT_EQ(c.focal, 0.05);
  EXPECT_EQ(c.f_number, 2.0);
  EXPECT_EQ(c.focus, 2.0);
  EXPECT_EQ(c.iso, 100);
  EXPECT_EQ(c.shutter_time, 0.02);
  EXPECT_EQ(c.nd_stops, 0);
  EXPECT_EQ(p.shots[0]->target_stops, 0);
  EXPECT_EQ(p.shots[0]->keepers_wanted, 1);
  EXPECT_EQ(p.rule<ShutterRule>(), ShutterRule::half);
  EXPECT_EQ(p.rule<BackdropRule>(), BackdropRule::black);
  EXPECT_EQ(p.setups[0]->backdrop.kind, BackdropKind::none);
  EXPECT_EQ(p.setups[0]->ambient_lx, 0);
}

TEST(Materials, HaveTheDefaultsOfTheirKind) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "glass"}});
  const auto material = [&](const Json& m) {
    doc["products"][0]["parts"][0]["material"] = m;
    return worlds::read(doc).products[0]->parts[0].material;
  };
  EXPECT_EQ(material({{"kind", "glass"}}).ior, 1.5);
  EXPECT_EQ(material({{"kind", "glass"}}).colour, (Vec3{1, 1, 1}));
  EXPECT_EQ(material({{"kind", "liquid"}}).ior, 1.33);
  EXPECT_EQ(material({{"kind", "satin"}}).roughness, 0.3);
  EXPECT_EQ(material({{"kind", "gloss"}}).roughness, 0.0);
  EXPECT_EQ(material({{"kind", "matte"}}).colour, (Vec3{0.5, 0.5, 0.5}));
  EXPECT_EQ(material({{"kind", "mirror"}}).colour, (Vec3{0.9, 0.9, 0.9}));
}

TEST(Rules, OfTheShotGoBeforeTheSetupsBeforeTheProjects) {
  Json doc = worlds::bare();
  doc["house_rules"] = {{"depth", "deep"}};
  EXPECT_EQ(worlds::read(doc).rule<DepthRule>(*worlds::read(doc).shots[0]), DepthRule::deep);
  doc["setups"][0]["house_rules"] = {{"depth", "shallow"}};
  const Project by_setup = worlds::read(doc);
  EXPECT_EQ(by_setup.rule<DepthRule>(*by_setup.shots[0]), DepthRule::shallow);
  doc["shots"][0]["house_rules"] = {{"depth", "deep"}};
  const Project by_shot = worlds::read(doc);
  EXPECT_EQ(by_shot.rule<DepthRule>(*by_shot.shots[0]), DepthRule::deep);
}

TEST(Reader, KeepsWhatDidNotChange) {
  Json json = worlds::bare();
  worlds::add_cylinder(json, {{"kind", "matte"}});
  Json second = json["shots"][0];
  second["id"] = "s2";
  json["shots"].push_back(second);
  const Document doc = *Document::from_json(json);
  ProjectReader reader;
  const Project a = reader.read(doc);
  const Project b = reader.read(*with_value(doc, "/shots/0/camera/iso", 800));
  EXPECT_NE(a.shots[0], b.shots[0]);
  EXPECT_EQ(a.shots[1], b.shots[1]);
  EXPECT_EQ(a.products[0], b.products[0]);
  EXPECT_EQ(a.setups[0], b.setups[0]);
  const Project c = reader.read(*with_value(doc, "/kit/lenses/0/focal_low", 0.04));  // shots are read with the kit
  EXPECT_NE(a.shots[1], c.shots[1]);
}

// Own behaviour: choices are read by their names; what is no name of a support's is kept as another, and what says
// nothing chooses nothing.
TEST(Choices, AreReadByTheirNames) {
  Json doc = worlds::bare();
  Json& supports = doc["kit"]["supports"] = Json::array();
  for (const std::string& name : support_names()) supports.push_back({{"id", name}, {"kind", name}});
  supports.push_back({{"id", "crane"}, {"kind", "crane"}});
  supports.push_back({{"id", "plate"}});
  doc["kit"]["modifiers"] = {{{"id", "a"}, {"shape", "disc"}, {"radius", 0.4}}, {{"id", "b"}, {"grid_deg", 30}}};
  doc["shots"][0]["size"] = "macro", doc["shots"][0]["role"] = "ending";
  doc["house_rules"] = {{"shutter", "flicker-safe"}, {"of another program", "kept"}};
  doc["project"]["units"] = "imperial";
  EXPECT_TRUE(validate(doc).empty());
  const Project p = worlds::read(doc);
  ASSERT_EQ(p.supports.size(), 7u);
  for (int k = 0; k <= static_cast<int>(SupportKind::other); ++k)
    EXPECT_EQ(p.supports[static_cast<std::size_t>(k)]->kind, static_cast<SupportKind>(k));
  EXPECT_EQ(p.supports[6]->kind, std::nullopt);
  EXPECT_TRUE(p.supports[0]->turns() && p.supports[6]->turns());
  EXPECT_FALSE(p.supports[1]->turns() || p.supports[5]->turns());
  EXPECT_EQ(p.modifiers[0]->shape, LightShape::disc);
  EXPECT_EQ(p.modifiers[1]->shape, std::nullopt);
  EXPECT_EQ(p.shots[0]->size, ShotSize::macro);
  EXPECT_EQ(p.shots[0]->role, ShotRole::ending);
  EXPECT_EQ(p.rule<ShutterRule>(), ShutterRule::flicker_safe);
  EXPECT_EQ(p.house_rules.size(), 1u);
  EXPECT_EQ(p.units, Units::imperial);
  for (std::size_t k = 0; k < house_rule_rows().size(); ++k)
    EXPECT_EQ(static_cast<std::size_t>(house_rule_rows()[k].rule), k) << "rows stand in the enum's order";
  EXPECT_EQ(rule_name(MovementRule::locked_off), "locked-off");
  EXPECT_EQ(rule_name(EffectsRule::plates), "plates");
}

// Own behaviour: a target is a row's name with the thing's id in it, whatever the id looks like.
TEST(Choices, WhatATrackMovesIsReadFromItsName) {
  for (const TrackKind& kind : track_kinds()) {
    EXPECT_EQ(&kind_of(kind.is), &kind) << "rows stand in the enum's order";
    const bool many = kind.moved == TrackedThing::product || kind.moved == TrackedThing::light ||
                      kind.moved == TrackedThing::card;
    for (const std::string id : {"key", "a.b", "turn", ".dimmer"}) {
      const std::string target = target_text(kind.is, id);
      SCOPED_TRACE(target);
      const auto read = read_target(target);
      ASSERT_TRUE(read);
      EXPECT_EQ(read->kind, &kind);
      EXPECT_EQ(read->id, many ? id : "");
      EXPECT_TRUE(is_target(target, kind.is, many ? id : ""));
      EXPECT_FALSE(is_target(target, kind.is, "another"));
      EXPECT_EQ(tracked(target), kind.is);
      EXPECT_EQ(moved_by(target), kind.moved);
      EXPECT_EQ(std::count_if(track_kinds().begin(), track_kinds().end(),
                              [&](const TrackKind& k) { return is_target(target, k.is, many ? id : ""); }),
                1);
    }
  }
  for (const char* none : {"", ".", "light", "light.", "light..dimmer", "light.dimmer", "camera", "camera.",
                           "camera.slide ", "turntable.x", "crop.crop", "product.jar.dimmer", "Turntable"})
    EXPECT_FALSE(tracked(none) || moved_by(none) || read_target(none)) << none;
}

TEST(Spot, StartsEachShotWhereTheOnesBeforeEnd) {
  Json doc = worlds::bare();
  for (const char* id : {"s2", "s3"}) {
    Json shot = doc["shots"][0];
    shot["id"] = id;
    shot["screen_time"] = 1.5;
    doc["shots"].push_back(shot);
  }
  const Project p = worlds::read(doc);
  EXPECT_EQ(p.starts_at(0), 0);
  EXPECT_EQ(p.starts_at(1), 2);
  EXPECT_EQ(p.starts_at(2), 3.5);
  EXPECT_EQ(p.screen_time(), 5);
}

// Source: arithmetic, as printed for `pwm-flicker`: six tenths of a cycle at four tenths on catch between none and
// all of a pulse, which is 1.67 of the mean.
TEST(Entities, ALampDimmedBySwitchingPulsesByItsDuty) {
  Json doc = worlds::bare();
  doc["kit"]["lights"][0].update({{"duty", 0.4}, {"ripple_hz", 600}, {"duv", 0.004}, {"warm_up_minutes", 8}});
  doc["setups"][0]["lights"] = Json::array({worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.3, 0.3, 2000)});
  doc["setups"][0]["lights"][0]["kit"] = "led";
  const Project project = worlds::read(doc);
  const Light& light = project.setups[0]->lights[0];
  EXPECT_EQ(light.duv, 0.004);
  const auto lamp = lamp_ripple(project, light);
  ASSERT_TRUE(lamp);
  EXPECT_EQ(lamp->hz, 600);
  EXPECT_NEAR(left_of_ripple(*lamp, 0.001), 1.0, 1e-12);
  EXPECT_NEAR(left_of_ripple(*lamp, 1.0 / 600), 0.0, 1e-12) << "a whole cycle";
  EXPECT_NEAR(left_of_ripple({0.05, 100}, 0.01), 0.0, 1e-9);
}

// Own behaviour: a front is written as it is read, and a lamp's own counts where nothing is put before it.
TEST(Entities, FrontsAreReadAsTheyAreWritten) {
  const Json fronts[]{
      {{"kind", "cloth"}, {"gap", 0.2}, {"exponent", 2}, {"forward", 0.3}, {"lobe_deg", 12}, {"baffle", 0.05}},
      {{"kind", "beads"}, {"pitch", 0.012}, {"gap", 0}, {"exponent", 3}, {"bead_radius", 0.002}},
      {{"kind", "lens"}, {"source_radius", 0.006}, {"focal", 0.08}, {"distance", 0.05}},
      {{"kind", "tube"}, {"length", 0.1}, {"mouth_radius", 0.03}},
      {{"kind", "gate"}, {"gate_width", 0.02}, {"gate_height", 0.03}, {"focal", 0.1}, {"distance", 0.12}}};
  for (const Json& front : fronts) {
    Json doc = worlds::bare();
    doc["kit"]["lights"][0]["front"] = front;
    Json lamp{{"id", "a"},        {"kit", "led"},    {"place", {0, 1, 0}},
              {"aim", {0, 0, 0}}, {"shape", "disc"}, {"radius", 0.05}};
    Json behind = lamp;
    behind["id"] = "b", behind["transmittance"] = 0.7;
    doc["setups"][0]["lights"] = Json::array({lamp, behind});
    const Project project = worlds::read(doc);
    const auto& lights = project.setups[0]->lights;
    ASSERT_TRUE(lights[0].front && lights[0].shines) << front;
    EXPECT_EQ(front_json(*lights[0].front), front);
    EXPECT_FALSE(lights[1].shines) << "a cloth hangs before it";
  }
}

}  // namespace
}  // namespace cinnabar
