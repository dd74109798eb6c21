// The document's ranges and references, one row each: what is refused where, and what is let through.
#include "worlds.h"

namespace cinnabar {
namespace {

Json full() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "gloss"}, {"colour", {0.2, 0.3, 0.4}}, {"ior", 1.5}, {"roughness", 0.1}},
                       true);
  doc["products"][0]["features"] =
      Json::array({{{"id", "f"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.001}, {"read", true}}});
  doc["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 0.8}, {"material", {{"kind", "matte"}}}};
  doc["setups"][0]["backdrop"] = {
      {"kind", "sweep"}, {"distance", 1.0}, {"width", 2.0}, {"height", 1.5}, {"radius", 0.3}};
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 10.0}, {"kelvin", 5000}};
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0.5, 0.6, 0.4}, {0, 0.05, 0}, 0.5, 0.7, 4000),
                   {{"id", "t"},
                    {"place", {0, 1, 0}},
                    {"aim", {0, 0, 0}},
                    {"shape", "tube"},
                    {"radius", 0.02},
                    {"length", 1.2}},
                   {{"id", "d"}, {"place", {0, 1, 0}}, {"aim", {0, 0, 0}}, {"shape", "disc"}, {"radius", 0.2}},
                   {{"id", "b"}, {"place", {0, 1, 0}}, {"aim", {0, 0, 0}}, {"shape", "bare"}, {"radius", 0.02}}});
  doc["setups"][0]["cards"] =
      Json::array({{{"id", "c"}, {"place", {0, 1, 0}}, {"aim", {0, 0, 0}}, {"width", 0.3}, {"height", 0.3}}});
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, 0}, {1, 90}}}},
                                           {{"target", "light.key.dimmer"}, {"keys", {{0, 0}, {1, 1}}}}});
  doc["shots"][0]["needs"] = {
      {"facing", {{"bearing_deg", 0}, {"at", 1}, {"for", 0.5}}}, {"slow", 1.0}, {"length", 2.0}};
  doc["shots"][0]["play"] = {{0, 1}, {1, 0.5}};
  doc["takes"].push_back({{"id", "t1"}, {"shot", "s1"}, {"number", 1}, {"kept", true}, {"reasons", {"late"}}});
  doc["deliverables"][0]["words"] = {{"area", {0.1, 0.1, 0.3, 0.5}}, {"last_seconds", 2}};
  return doc;
}

TEST(FullDocument, IsValid) {
  for (const auto& f : validate(full())) ADD_FAILURE() << f.path << " " << f.message;
}

struct FaultRow {
  const char* pointer;
  Json value;
  const char* where = nullptr;  // where the fault is reported; the pointer itself when left out
};
class Refused : public testing::TestWithParam<FaultRow> {};
TEST_P(Refused, IsReportedAtItsPlace) {
  Json doc = full();
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  const std::string where = GetParam().where ? GetParam().where : GetParam().pointer;
  bool found = false;
  for (const DocumentFault& f : validate(doc)) found = found || (f.path == where && !f.mend.empty());
  EXPECT_TRUE(found) << where << " = " << GetParam().value;
}

INSTANTIATE_TEST_SUITE_P(
    Top, Refused,
    testing::Values(FaultRow{"/format", "other"}, FaultRow{"/version", 2}, FaultRow{"/version", 0},
                    FaultRow{"/version", 1.5}, FaultRow{"/project", nullptr}, FaultRow{"/project", Json::array()},
                    FaultRow{"/project/name", "  "}, FaultRow{"/project/name", 7},
                    FaultRow{"/project/timeline_rate", "0"}, FaultRow{"/project/timeline_rate", "24/0"},
                    FaultRow{"/project/allowed_time", 0}, FaultRow{"/project/beats_per_minute", -96},
                    FaultRow{"/project/mains_hz", "fifty"}, FaultRow{"/project/latitude", 91},
                    FaultRow{"/project/units", "cubits"},
                    FaultRow{"/project/limits", Json{{"iso", 0}}, "/project/limits/iso"},
                    FaultRow{"/house_rules", Json{{"depth", "medium"}}, "/house_rules/depth"},
                    FaultRow{"/bands", Json{{"x", {{"low", "a"}}}}, "/bands/x/low"},
                    FaultRow{"/blobs", Json{{"p", {{"data", "@@@@"}}}}, "/blobs/p/data"},
                    FaultRow{"/blobs", Json{{"p", {{"type", "image/png"}, {"data", "Zm9v"}}}}, "/blobs/p/data"},
                    FaultRow{"/blobs", Json{{"p", {{"type", "application/x-ies"}, {"data", "Zm9v"}}}},
                             "/blobs/p/data"},
                    FaultRow{"/blobs", Json{{"p", {{"type", "model/stl"}, {"data", "Zm9v"}}}}, "/blobs/p/data"},
                    FaultRow{"/shots", Json::object()}, FaultRow{"/setups", "none"}, FaultRow{"/takes", 3}));
INSTANTIATE_TEST_SUITE_P(
    BriefAndKit, Refused,
    testing::Values(FaultRow{"/kit/lights/0/owned", "yes"}, FaultRow{"/kit/lights/0/count", 1.5},
                    FaultRow{"/kit/lights/0/price", -1}, FaultRow{"/kit/lights/0/beam_deg", 180},
                    FaultRow{"/kit/lights/0/candela", -5},
                    FaultRow{"/kit/lights/0/lux", Json{{"illuminance_lx", 100}}, "/kit/lights/0/lux/distance"},
                    FaultRow{"/kit/lights/0/lux", Json{{"illuminance_lx", 100}, {"distance", 0}},
                             "/kit/lights/0/lux/distance"},
                    FaultRow{"/kit/lights/0/ies", "no such blob"}, FaultRow{"/kit/supports/0/reach", 0},
                    FaultRow{"/project/means", Json{{"budget", -1}}, "/project/means/budget"},
                    FaultRow{"/project/means", Json{{"circuits", 1.5}}, "/project/means/circuits"},
                    FaultRow{"/deliverables/0/longest", 0}, FaultRow{"/deliverables/0/loudness", 3},
                    FaultRow{"/shots/0/plates", Json{1, 2}}, FaultRow{"/shots/0/move", 4},
                    FaultRow{"/shots/0/sketch", Json{{"strokes", {{{0.1, 0.2}, {0.3}}}}},
                             "/shots/0/sketch/strokes"},
                    FaultRow{"/shots/0/sketch", Json{{"strokes", {{{0.1, 9}}}}}, "/shots/0/sketch/strokes"},
                    FaultRow{"/shots/0/sketch", Json{{"instead", 1}}, "/shots/0/sketch/instead"}));
INSTANTIATE_TEST_SUITE_P(
    Products, Refused,
    testing::Values(
        FaultRow{"/products/0/id", ""}, FaultRow{"/products/0/id", 3}, FaultRow{"/products/0/mass", -1},
        FaultRow{"/products/0/parts/0/profile", Json{{0, 0}}},
        FaultRow{"/products/0/parts/0/profile", Json{{0, 0}, {0, 1}}},
        FaultRow{"/products/0/parts/0/profile", Json{{-0.1, 0}, {0.1, 1}}},
        FaultRow{"/products/0/parts/0/profile", Json{{0.1, 0, 3, 0, 1}, {0.1, 1}}},
        FaultRow{"/products/0/parts/0/wall", -0.001}, FaultRow{"/products/0/parts/0/material/kind", "cheese"},
        FaultRow{"/products/0/parts/0/material/colour", Json{0.1, 0.2}},
        FaultRow{"/products/0/parts/0/material/colour", Json{0.1, 0.2, 1.1}},
        FaultRow{"/products/0/parts/0/material/ior", 0.9}, FaultRow{"/products/0/parts/0/material/roughness", 1.5},
        FaultRow{"/products/0/label/part", "lid"}, FaultRow{"/products/0/label/arc_deg", 0},
        FaultRow{"/products/0/label/arc_deg", 361},
        FaultRow{"/products/0/label/low", 0.09, "/products/0/label/high"}, FaultRow{"/products/0/label/stroke", 0},
        FaultRow{"/products/0/label/picture", "gone"}, FaultRow{"/products/0/features/0/at", Json{0, 0}},
        FaultRow{"/products/0/features/0/read", "yes"}));
INSTANTIATE_TEST_SUITE_P(
    Kit, Refused,
    testing::Values(FaultRow{"/kit", Json::array()}, FaultRow{"/kit/cameras/0/sensor_width", 0},
                    FaultRow{"/kit/cameras/0/modes/0/rate", 25}, FaultRow{"/kit/cameras/0/modes/0/width", 0},
                    FaultRow{"/kit/cameras/0/modes/0/crop", 0.5}, FaultRow{"/kit/cameras/0/modes/1/id", "m25"},
                    FaultRow{"/kit/cameras/0/iso_high", 50}, FaultRow{"/kit/lenses/0/focal_high", 0.02},
                    FaultRow{"/kit/lenses/0/f_number_low", -1}, FaultRow{"/kit/lights/0/kelvin_high", 100},
                    FaultRow{"/kit/supports/0/load", -2}));
INSTANTIATE_TEST_SUITE_P(
    Setups, Refused,
    testing::Values(FaultRow{"/setups/0/surface/width", 0}, FaultRow{"/setups/0/backdrop/kind", "curtain"},
                    FaultRow{"/setups/0/backdrop/height", -1}, FaultRow{"/setups/0/backdrop/tilt_deg", 90},
                    FaultRow{"/setups/0/ambient/illuminance_lx", -1}, FaultRow{"/setups/0/lights/0/shape", "blob"},
                    FaultRow{"/setups/0/lights/0/place", Json{0, 0}},
                    FaultRow{"/setups/0/lights/0/aim", "product"}, FaultRow{"/setups/0/lights/0/dimmer", -0.1},
                    FaultRow{"/setups/0/lights/0/transmittance", 2}, FaultRow{"/setups/0/lights/0/kelvin", 10},
                    FaultRow{"/setups/0/lights/0/gel_mired", -200}, FaultRow{"/setups/0/lights/0/grid_deg", 180},
                    FaultRow{"/setups/0/lights/0/grid_deg", 0}, FaultRow{"/setups/0/lights/0/on", 1},
                    FaultRow{"/setups/0/lights/0/kit", "lost"}, FaultRow{"/setups/0/lights/1/length", 0},
                    FaultRow{"/setups/0/lights/2/radius", -0.2}, FaultRow{"/setups/0/lights/3/radius", nullptr},
                    FaultRow{"/setups/0/cards/0/width", 0},
                    FaultRow{"/setups/0/house_rules", Json{{"shutter", "x"}}, "/setups/0/house_rules/shutter"}));
INSTANTIATE_TEST_SUITE_P(
    Shots, Refused,
    testing::Values(FaultRow{"/shots/0/setup", nullptr}, FaultRow{"/shots/0/size", "huge"},
                    FaultRow{"/shots/0/screen_time", 0}, FaultRow{"/shots/0/screen_time", 1e9},
                    FaultRow{"/shots/0/products/0/product", "ghost"}, FaultRow{"/shots/0/products/0/on", "ghost"},
                    FaultRow{"/shots/0/products/0/place", Json{0, 0, "z"}},
                    FaultRow{"/shots/0/camera/camera", "ghost"}, FaultRow{"/shots/0/camera/lens", "ghost"},
                    FaultRow{"/shots/0/camera/mode", "m24"}, FaultRow{"/shots/0/camera/focal", 0},
                    FaultRow{"/shots/0/camera/focus", 0.05}, FaultRow{"/shots/0/camera/f_number", 0},
                    FaultRow{"/shots/0/camera/shutter_time", 0}, FaultRow{"/shots/0/camera/iso", 0},
                    FaultRow{"/shots/0/camera/nd_stops", 99}, FaultRow{"/shots/0/camera/balance_k", 0},
                    FaultRow{"/shots/0/camera/locked", Json{{"white", "yes"}}, "/shots/0/camera/locked/white"},
                    FaultRow{"/shots/0/play", Json{{0, 1}, {0, 1}}}, FaultRow{"/shots/0/play", Json{{0, -1}}},
                    FaultRow{"/shots/0/tracks/0/target", "elevator"},
                    FaultRow{"/shots/0/tracks/0/profile", "wobbly"},
                    FaultRow{"/shots/0/tracks/1/target", "turntable"},
                    FaultRow{"/shots/0/tracks/1/keys", Json{{0, 2}}}, FaultRow{"/shots/0/needs/slow", 0},
                    FaultRow{"/shots/0/needs/facing/at", -1}, FaultRow{"/shots/0/takes_planned", 2.5},
                    FaultRow{"/takes/0/number", 0}, FaultRow{"/takes/0/kept", "yes"},
                    FaultRow{"/takes/0/reasons", Json{1}}, FaultRow{"/deliverables/0/height", 0},
                    FaultRow{"/deliverables/0/words/area", Json{0, 0, 2, 1}}));

struct GoodRow {
  const char* pointer;
  Json value;
};
class LetThrough : public testing::TestWithParam<GoodRow> {};
TEST_P(LetThrough, IsNoFault) {
  Json doc = full();
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  for (const DocumentFault& f : validate(doc)) ADD_FAILURE() << f.path << " " << f.message;
}
INSTANTIATE_TEST_SUITE_P(
    Values, LetThrough,
    testing::Values(GoodRow{"/project/timeline_rate", "24000/1001"}, GoodRow{"/project/timeline_rate", "23.976"},
                    GoodRow{"/project/mood", "dreamy"}, GoodRow{"/project/new_field", Json{{"a", 1}}},
                    GoodRow{"/setups/0/lights/0/dimmer", 0}, GoodRow{"/setups/0/lights/0/on", false},
                    GoodRow{"/setups/0/lights/0/place", Json{0, -0.4, 0}},
                    GoodRow{"/setups/0/backdrop", Json{{"kind", "none"}}},
                    GoodRow{"/shots/0/products", Json::array()}, GoodRow{"/shots/0/camera/nd_stops", 3},
                    GoodRow{"/shots/0/camera/shutter_time", 1.0},
                    GoodRow{"/shots/0/house_rules", Json{{"shutter", "crisp"}}},
                    GoodRow{"/products/0/parts/0/profile", Json{{0.02, 0.0}, {0.03, 0.1}}},
                    GoodRow{"/products/0/parts/0/wall", 0.002},
                    GoodRow{"/shots/0/sketch", Json{{"strokes", {{{0.1, 0.2}, {0.3, -0.1}}}}, {"instead", true}}},
                    GoodRow{"/kit/lights/0/lux", Json{{"illuminance_lx", 100}, {"distance", 2}}},
                    GoodRow{"/project/means", Json{{"budget", 250}, {"room_width", 3}}},
                    GoodRow{"/bands", Json{{"motion.smear", {{"low", nullptr}, {"high", 3}}}}},
                    GoodRow{"/blobs", Json{{"p", {{"type", "image/png"}, {"data", worlds::dot_png}}}}}));

}  // namespace
}  // namespace cinnabar
