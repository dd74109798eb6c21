// Patterns, films, gels by their spectrum, domes, diffusion and pins that go along, in set-ups that no demo has:
// held against set-ups that must be the same.
#include "cinnabar/forecast/levers/knobs.h"
#include "cinnabar/forecast/measures/pins.h"
#include "cinnabar/forecast/measures/shining.h"
#include "cinnabar/forecast/measures/strongest.h"
#include "cinnabar/render/filter.h"
#include "cinnabar/scene/view.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {
using namespace odd_setups;

class OddLooks : public OddTest {
 protected:
  static std::map<std::string, Level> levels(const Json& d) {
    std::map<std::string, Level> by_id;
    for (Level& level : Forecaster(quick_measure).levels(worlds::read(d), 0)) by_id.emplace(level.id, level);
    return by_id;
  }
  /// The same, of all levels or of those named.
  static void expect_same(const Json& a, const Json& b, const std::vector<std::string>& ids = {}) {
    const auto one = levels(a), other = levels(b);
    std::size_t seen = 0;
    for (const auto& [id, level] : one) {
      if (!ids.empty() && std::find(ids.begin(), ids.end(), id) == ids.end()) continue;
      SCOPED_TRACE(id + ": " + level.formula);
      ASSERT_TRUE(other.contains(id));
      const Level& then = other.at(id);
      ASSERT_EQ(level.value.has_value(), then.value.has_value()) << then.sentence;
      if (level.value) {
        EXPECT_NEAR(*level.value, *then.value, 0.01 * std::abs(*level.value) + 0.01) << then.formula;
        ++seen;
      }
    }
    EXPECT_GT(seen, 0u);
  }
  /// Without what this file puts on.
  static Json bared() {
    Json d = doc();
    d["shots"][0]["camera"].erase("polariser");
    for (Json& light : d["setups"][0]["lights"])
      for (const char* key : {"film", "gel_bands", "gel_curve"}) light.erase(key);
    return d;
  }
};

// Own behaviour: four passes, filtered, are nearer to many than as they came.
TEST_P(OddLooks, FewPassesAreCalmerThanTheyCame) {
  const Project project = worlds::read(doc());
  const auto world = std::make_shared<const StagedWorld>(stage(project, *project.shots[0], 0.3));
  const Tracer tracer(world);
  Film film = tracer.film(64, 36, Caustics::by_photons);
  Picture came, calmed;
  for (int pass = 1; pass <= 96; ++pass) {
    ASSERT_TRUE(tracer.add_pass(film));
    if (pass == 4) came = mixed(film, layer_weights(*world)), calmed = filtered(came, film, 3);
  }
  const double signal = signal_per_luminance(world->camera);
  const auto settled = developed(mixed(film, layer_weights(*world)), signal);
  const auto off = [&](const Picture& picture) {
    const auto codes = developed(picture, signal);
    double sum = 0;
    for (std::size_t i = 0; i < codes.size(); ++i) sum += std::pow(double(codes[i]) - settled[i], 2);
    return std::sqrt(sum / static_cast<double>(codes.size()));
  };
  EXPECT_LT(off(calmed), off(came));
  for (const Rgb& c : calmed.pixels) EXPECT_TRUE(std::isfinite(c.x) && c.x >= 0 && c.y >= 0 && c.z >= 0);
}

// Own behaviour: a pattern of one colour is none.
TEST_P(OddLooks, APatternOfOneColourIsNone) {
  Json plain = doc();
  Json& setup = plain["setups"][0];
  setup["cards"] = Json::array({worlds::card("board", {0.5, 0.2, 0.3}, {0, 0, 0}, 0.3, 0.3)});
  std::vector<Json*> things{&setup["surface"], &setup["cards"][0]};
  if (setup.contains("backdrop")) things.push_back(&setup["backdrop"]);
  for (Json* thing : things)
    (*thing)["material"] = {{"kind", "matte"}, {"colour", {0.4, 0.3, 0.2}}, {"textured", false}};
  for (const char* kind : {"wood", "marble", "stone", "weave"}) {
    SCOPED_TRACE(kind);
    Json patterned = plain;
    for (const char* thing : {"surface", "backdrop"})
      if (patterned["setups"][0].contains(thing))
        patterned["setups"][0][thing]["material"]["texture"] = {{"kind", kind}, {"colour", {0.4, 0.3, 0.2}}};
    patterned["setups"][0]["cards"][0]["material"]["texture"] = {{"kind", kind}, {"colour", {0.4, 0.3, 0.2}}};
    expect_same(plain, patterned);
  }
}

// Source: by hand: behind no other film a film takes its stops, as a filter of 2^-stops does.
TEST_P(OddLooks, AFilmAloneIsAFilter) {
  Json filtered = bared(), filmed = bared();
  for (std::size_t l = 0; l < filtered["setups"][0]["lights"].size(); ++l) {
    filtered["setups"][0]["lights"][l]["gel_transmittance"] = std::exp2(-1.5);
    filmed["setups"][0]["lights"][l]["film"] = {{"angle_deg", 33.0 * static_cast<double>(l)}};
  }
  expect_same(filtered, filmed);
}

// Source: by hand: a gel that lets half of every wavelength through is a filter of a half.
TEST_P(OddLooks, AnEvenGelIsAFilter) {
  Json filtered = bared(), gelled = bared();
  for (std::size_t l = 0; l < filtered["setups"][0]["lights"].size(); ++l) {
    filtered["setups"][0]["lights"][l]["gel_transmittance"] = 0.5;
    gelled["setups"][0]["lights"][l]["gel_curve"] = {{{"nm", 400}, {"share", 0.5}}, {{"nm", 700}, {"share", 0.5}}};
  }
  expect_same(filtered, gelled, {"light.product", "camera.stops", "light.ratio", "light.soft", "frame.gear"});
}

// Own behaviour: what was known under a face is known under a dome; and the lens's film changes no number where
// nothing mirrors but by its stops.
TEST_P(OddLooks, ADomeIsJudgedLikeAFace) {
  Json domed = bared();
  const auto before = levels(domed);
  Json& key = domed["setups"][0]["lights"][0];
  key.update({{"shape", "dome"}, {"radius", 0.25}});
  for (const char* other : {"width", "height", "front"}) key.erase(other);
  const auto after = levels(domed);
  for (const auto& [id, level] : before) {
    if (id == "light.stripe") continue;  // no strip is left
    ASSERT_TRUE(after.contains(id)) << id;
    EXPECT_EQ(level.value.has_value(), after.at(id).value.has_value()) << id << " " << after.at(id).sentence;
  }
}

// Source: by hand: an edge is as wide as what shines is, and no sheet shines wider than it is.
TEST_P(OddLooks, DiffusionBeforeTheKeyIsWhatShines) {
  Json d = bared();
  for (Json& light : d["setups"][0]["lights"]) {
    if (light["id"] != "key") light["on"] = false;
    light.erase("front");
  }
  Json& key = d["setups"][0]["lights"][0];
  key.update({{"shape", "disc"}, {"radius", 0.01}});
  for (const char* other : {"width", "height"}) key.erase(other);
  d["shots"][0].erase("tracks");
  d["setups"][0].erase("room");
  d["setups"][0]["cards"] = Json::array();
  const Project bare = worlds::read(d);
  const Vec3 foot = product_place(*bare.shots[0]), lamp = bare.setups[0]->lights[0].place;
  const Vec3 half = (foot + Vec3{0, fingertip, 0} + lamp) * 0.5;
  const double hard = soft_edge(bare, *bare.shots[0], *bare.setups[0], bare.setups[0]->lights[0], 0)->across;
  double last = hard;
  for (const double forward : {0.95, 0.6, 0.0}) {
    Json with = d;
    with["setups"][0]["cards"] =
        Json::array({worlds::card("silk", {half.x, half.y, half.z}, {lamp.x, lamp.y, lamp.z}, 0.5, 0.5,
                                  {{"kind", "translucent"},
                                   {"colour", {0.9, 0.9, 0.9}},
                                   {"transmittance", 0.7},
                                   {"forward", forward},
                                   {"lobe_deg", 8}})});
    const Project p = worlds::read(with);
    const auto edge = soft_edge(p, *p.shots[0], *p.setups[0], p.setups[0]->lights[0], 0);
    ASSERT_TRUE(edge);
    EXPECT_EQ(edge->shining.through, "silk");
    EXPECT_GT(edge->across, last) << "what goes straight on keeps a shadow's edge";
    EXPECT_LE(edge->shining.side, 0.5 + 1e-12);
    last = edge->across;
    const auto told = levels(with);
    if (told.contains("light.soft") && told.at("light.soft").value) {
      EXPECT_NEAR(*told.at("light.soft").value, 1e3 * edge->across, 0.01 * 1e3 * edge->across);
      EXPECT_NE(told.at("light.soft").sentence.find("through silk"), std::string::npos);
    }
  }
  EXPECT_GT(last, 5 * hard);
}

// Own behaviour: a pin on the product reads what one that stands there reads.
TEST_P(OddLooks, PinsGoAlong) {
  Json d = doc();
  d["setups"][0]["pins"] =
      Json::array({Json{{"id", "p"}, {"with", "can"}, {"at", {0.02, 0.07, 0.042}}, {"normal", {0, 0, 1}}}});
  const Project p = worlds::read(d);
  const Shot& shot = *p.shots[0];
  for (const double t : {0.0, 0.5 * shot.set_time()}) {
    const auto stands = pin_at(p, shot, p.setups[0]->pins[0], t);
    ASSERT_TRUE(stands);
    Json fixed = d;
    fixed["setups"][0]["pins"][0] = {{"id", "p"},
                                     {"at", {stands->at.x, stands->at.y, stands->at.z}},
                                     {"normal", {stands->normal.x, stands->normal.y, stands->normal.z}}};
    const Project there = worlds::read(fixed);
    const double lux = read_pins(p, shot, t).at(0).lux;
    EXPECT_NEAR(lux, read_pins(there, *there.shots[0], t).at(0).lux, 1e-4 * lux + 1e-9) << t;
  }
}

// Own behaviour: films that are crossed make a valid shot of each, and never a brighter glare than none.
TEST_P(OddLooks, CrossedFilmsTakeGlare) {
  Json d = bared();
  d["products"][0]["parts"][0]["material"] = {{"kind", "metal"}, {"colour", {0.7, 0.7, 0.7}}, {"roughness", 0.35}};
  const Document document = *Document::from_json(d);
  ProjectReader reader;
  const Project project = reader.read(document);
  const auto all = Forecaster(quick_measure).levels(project, 0, "light.highlight");
  ASSERT_EQ(all.size(), 1u);
  ASSERT_TRUE(all[0].value);
  std::size_t tried = 0;
  for (const Knob& knob : knobs_for(document, project, 0, all[0]).knobs) {
    if (knob.title(0.0).find("polarising film on") == std::string::npos) continue;
    for (const double step : {0.0, 45.0, 90.0, 135.0}) {
      const auto next = knob.apply(document, step);
      ASSERT_TRUE(next);
      for (const auto& fault : validate(*next)) ADD_FAILURE() << fault.path << " " << fault.message;
      const auto then = Forecaster(quick_measure).levels(reader.read(*next), 0, "light.highlight");
      ASSERT_TRUE(then.at(0).value);
      // Through parallel films twice of half of half comes: 1.5 stops less of the lens, and at most a half more.
      EXPECT_GT(*then[0].value, *all[0].value + 0.4) << step;
      ++tried;
    }
  }
  EXPECT_GT(tried, 0u);
}

INSTANTIATE_TEST_SUITE_P(Odd, OddLooks, testing::ValuesIn(odds), [](const auto& odd) { return odd.param.name; });

// Source: a lamp that gives as a Lambertian point behind a wide sheet is worked out a second time by the front of
// a face (photometry/front.h), which has the same formula by other sums.
TEST(Shining, OfASheetIsAsAFrontHasIt) {
  for (const auto& [gap, forward] : {std::pair{0.15, 0.0}, {0.3, 0.0}, {0.3, 0.5}, {0.6, 0.8}}) {
    constexpr double side = 0.8, far = 6.0;
    Json d = worlds::bare();
    d["setups"][0]["lights"] = Json::array({Json{{"id", "lamp"},
                                                 {"place", {0, 1, gap}},
                                                 {"aim", {0, 1, -1}},
                                                 {"shape", "disc"},
                                                 {"radius", 0.001},
                                                 {"lumens", 1000}}});
    d["setups"][0]["cards"] = Json::array(
        {worlds::card("sheet", {0, 1, 0}, {0, 1, 1}, side, side,
                      {{"kind", "translucent"}, {"transmittance", 0.6}, {"forward", forward}, {"lobe_deg", 15}})});
    const Project p = worlds::read(d);
    const Shining shining = shining_on({0, 1, -far}, p.setups[0]->lights[0], *p.setups[0], *p.shots[0], 0.0);
    EXPECT_EQ(shining.through, "sheet");
    EXPECT_NEAR(length(shining.place - Vec3{0, 1, 0}), 0.0, 1e-6);
    const FrontEmission front(
        {.kind = FrontKind::cloth, .gap = gap, .exponent = 1, .forward = forward, .lobe_deg = 15},
        {false, side / 2, side / 2});
    EXPECT_NEAR(shining.side, side * front.seen_from(0, 0, far).first, 0.03 * side) << gap << " " << forward;
  }
}

// Source: by hand: past the sheet's edge the lamp itself shines; a lamp aside lights the sheet aside; of two
// sheets the nearer one is what is seen.
TEST(Shining, GoesByWhatStandsInTheWay) {
  Json d = worlds::bare();
  d["setups"][0]["lights"] = Json::array({Json{{"id", "lamp"},
                                               {"place", {0, 1, 0.2}},
                                               {"aim", {0, 1, -1}},
                                               {"shape", "bare"},
                                               {"radius", 0.01},
                                               {"lumens", 1000}}});
  const Json silk{{"kind", "translucent"}, {"transmittance", 0.6}};
  d["setups"][0]["cards"] = Json::array({worlds::card("sheet", {0, 1, 0}, {0, 1, 1}, 0.6, 0.6, silk),
                                         worlds::card("board", {0, 1, -0.5}, {0, 1, 1}, 0.6, 0.6)});
  const auto of = [&](const Vec3& at) {
    const Project p = worlds::read(d);
    return shining_on(at, p.setups[0]->lights[0], *p.setups[0], *p.shots[0], 0.0);
  };
  EXPECT_EQ(of({0, 1, -2}).through, "sheet") << "a board that nothing goes through shines in no case";
  EXPECT_TRUE(of({0, 3.5, -1}).through.empty());
  EXPECT_NEAR(of({0, 3.5, -1}).side, 0.02, 1e-12);
  d["setups"][0]["lights"][0]["place"] = {0.2, 1, 0.2};
  EXPECT_GT(of({0, 1, -3}).place.x, 0.05);
  d["setups"][0]["cards"][1]["material"] = silk;
  EXPECT_EQ(of({0, 1, -2}).through, "board");
}

}  // namespace
}  // namespace cinnabar
