// What things of a set are made of and covered with, as edits.
#include "cinnabar/planning/set_looks.h"

#include "cinnabar/planning/room_things.h"
#include "cinnabar/planning/set_bodies.h"
#include "edited_set.h"

namespace cinnabar {
namespace {

using Kind = SetThing::Kind;

Json furnished() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  Json& setup = doc["setups"][0];
  setup["surface"] = {{"width", 1}, {"depth", 1}, {"material", worlds::matte(0.4, 0.4, 0.4)}};
  setup["backdrop"] = {{"kind", "sweep"}, {"distance", 1}, {"width", 2}, {"height", 2}, {"radius", 0.3}};
  setup["cards"].push_back(worlds::card("c", {0.5, 0.3, 0}, {0, 0, 0}, 0.4, 0.4));
  setup["lights"].push_back(worlds::rectangle("key", {1, 1, 1}, {0, 0, 0}, 0.5, 0.5, 3000));
  setup["gear"] = {{{"id", "box"}, {"place", {0.2, 0, 0}}, {"size", {0.1, 0.1, 0.1}}},
                   {{"id", "drum"}, {"place", {-0.2, 0, 0}}, {"size", {0.1, 0.1, 0.1}}, {"form", "round"}}};
  return doc;
}

// Own behaviour: each that is flat takes each pattern, shows it, and gives it back.
TEST(SetLooks, PatternsAreLaidOnWhatIsFlat) {
  for (const SetThing& thing :
       {SetThing{Kind::surface, 0}, SetThing{Kind::backdrop, 0}, SetThing{Kind::card, 0}, SetThing{Kind::body, 0}})
    for (const SheetKind& kind : pattern_kinds()) {
      SCOPED_TRACE(kind.id);
      const Set set(furnished());
      const auto laid = pattern_laid(set.on, thing, kind.id);
      ASSERT_TRUE(laid);
      const Set with(set.after(laid->values));
      EXPECT_FALSE(pattern_laid(with.on, thing, kind.id)) << "it lies there";
      const auto off = pattern_laid(with.on, thing, {});
      ASSERT_TRUE(off);
      const Json doc = with.after(off->values);
      EXPECT_EQ(doc.dump().find("texture"), std::string::npos);
      EXPECT_FALSE(pattern_laid(set.on, thing, {}));
      EXPECT_FALSE(pattern_laid(set.on, thing, "plaid"));
    }
  const Set set(furnished());
  for (const SetThing& thing : {SetThing{Kind::body, 1}, SetThing{Kind::body, 7}, SetThing{Kind::light, 0},
                                SetThing{Kind::product, 0}, SetThing{Kind::camera, 0}})
    EXPECT_FALSE(pattern_laid(set.on, thing, "wood"));
}

// Own behaviour: a picture of the project becomes a pattern in its own colours; one that is not there does not.
TEST(SetLooks, APictureIsLaidInItsOwnColours) {
  Json doc = furnished();
  doc["blobs"] = {{"dot", {{"type", "image/png"}, {"data", worlds::dot_png}}}};
  const Set set(doc);
  EXPECT_FALSE(picture_laid(set.on, {Kind::surface, 0}, "none"));
  const auto laid = picture_laid(set.on, {Kind::surface, 0}, "dot");
  ASSERT_TRUE(laid);
  const Set with(set.after(laid->values));
  const Material& made = with.on.setup()->surface->material;
  ASSERT_TRUE(made.texture && made.texture->tile());
  EXPECT_NEAR(made.texture->tile()->pixels[0].x, 1.0, 1e-6) << "one pixel is its own mean";
  const Rgb dot = Rgb{static_cast<float>(made.colour.x), static_cast<float>(made.colour.y), 0};
  EXPECT_FALSE(dot.x == 0.4f && dot.y == 0.4f) << "no longer the table's grey";
}

// Own behaviour: each thing is made of each that it can be, and is that then.
TEST(SetLooks, ThingsAreMadeOfWhatIsChosen) {
  for (const SetThing& thing : {SetThing{Kind::surface, 0}, SetThing{Kind::backdrop, 0}, SetThing{Kind::card, 0},
                                SetThing{Kind::body, 0}, SetThing{Kind::body, 1}})
    for (const SheetKind& kind : materials_for(thing)) {
      SCOPED_TRACE(kind.id);
      const Set set(furnished());
      const auto made = made_of(set.on, thing, kind.id);
      ASSERT_TRUE(made);
      const Set with(set.after(made->values));
      EXPECT_FALSE(made_of(with.on, thing, kind.id));
    }
  const Set set(furnished());
  EXPECT_FALSE(made_of(set.on, {Kind::backdrop, 0}, "glass"));
  EXPECT_FALSE(made_of(set.on, {Kind::surface, 0}, "frost"));
  EXPECT_FALSE(made_of(set.on, {Kind::light, 0}, "white"));
}

// Own behaviour: sheets are what they are told apart by; diffusion lets light through.
TEST(SetLooks, SheetsAreSetUpAndKnownAgain) {
  for (const SheetKind& kind : sheet_kinds()) {
    SCOPED_TRACE(kind.id);
    EXPECT_EQ(sheet_of(sheet_material(kind.id)), kind.id);
    const Set set(furnished());
    const auto added = sheet_added(set.on, kind.id);
    ASSERT_TRUE(added);
    const Set with(set.after(added->values));
    const Material& made = with.on.setup()->cards.back().material;
    const bool lets_through = kind.id != "white" && kind.id != "silver" && kind.id != "black";
    EXPECT_EQ(made.kind == MaterialKind::translucent, lets_through);
    if (lets_through) {
      EXPECT_GT(made.transmittance, 0.3);
      EXPECT_GT(made.forward, 0.0);
    }
  }
  EXPECT_EQ(sheet_of(Json{{"kind", "metal"}, {"colour", {0.5, 0.5, 0.5}}}), "silver") << "the nearest";
  EXPECT_EQ(sheet_of(Json()), "white");
}

// Source: by hand: a film takes 1.5 stops (common practice, no source), a gel by its curve takes a named one's
// place.
TEST(SetLooks, FilmsAndCurvesGoBeforeLights) {
  const Set set(furnished());
  const SetThing key{Kind::light, 0};
  const auto film = film_switched(set.on, key);
  ASSERT_TRUE(film);
  const Set filmed(set.after(film->values));
  EXPECT_NEAR(filmed.on.setup()->lights[0].full_luminance() / set.on.setup()->lights[0].full_luminance(),
              std::exp2(-1.5), 1e-9);
  const auto off = film_switched(filmed.on, key);
  ASSERT_TRUE(off);
  EXPECT_EQ(filmed.after(off->values), set.after(Values{}));
  EXPECT_FALSE(film_switched(set.on, {Kind::card, 0}));

  const Set red(set.after(gel_put(set.on, key, "red")->values));
  const auto curve = gel_curve_put(red.on, key, {{400, 0.9}, {500, 0.2}, {700, 0.05}});
  ASSERT_TRUE(curve);
  const Set blue(red.after(curve->values));
  const auto& bands = blue.on.setup()->lights[0].gel_bands;
  ASSERT_TRUE(bands);
  EXPECT_GT(bands->z, 2 * bands->x);
  EXPECT_FALSE(gel_curve_put(red.on, key, {}));
  const Set again(blue.after(gel_put(blue.on, key, "red")->values));
  EXPECT_GT(again.on.setup()->lights[0].gel_bands->x, 0.7);
  EXPECT_TRUE(again.on.setup()->lights[0].gel_curve.empty());
  EXPECT_EQ(blue.after(gel_put(blue.on, key, {})->values), set.after(Values{})) << "taken off like any";
}

}  // namespace
}  // namespace cinnabar
