// The room about a set: walls that throw light back, windows with sky and sun, and what stands before lamps, as
// the meter reads them.
#include <cmath>
#include <map>

#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/modifiers.h"
#include "cinnabar/project/model/windows.h"
#include "cinnabar/render/meter.h"
#include "cinnabar/render/shadows.h"
#include "staging.h"

namespace cinnabar {
using worlds::staged;
namespace {

/// A disc of 5 cm, 6 m over the floor, with a front.
Json under_a_lamp(const Json& front, double radius = 0.05, double far = 3.0) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back({{"id", "lamp"},
                                        {"place", {0.2, far, -0.1}},
                                        {"aim", {0.2, 0, -0.1}},
                                        {"shape", "disc"},
                                        {"radius", radius},
                                        {"lumens", 3553.0577},
                                        {"transmittance", 0.8},
                                        {"front", front}});
  return doc;
}
double lux_at(const Json& doc, double aside) {
  return illuminance(Tracer(staged(doc)), {0.2 + aside, 0, -0.1}, {0, 1, 0}).total();
}

/// The test's own sum over a face: luminance by place and direction, both cosines, the square of the distance.
double own_sum(const Json& doc, double aside) {
  const Project project = worlds::read(doc);
  const Light& light = project.setups[0]->lights[0];
  const Facing f = facing(light.place, light.aim);
  const double w = light.shape == LightShape::disc ? light.radius : light.width / 2,
               h = light.shape == LightShape::disc ? light.radius : light.height / 2;
  constexpr int n = 300;
  double sum = 0;
  for (int i = 0; i < n; ++i)
    for (int j = 0; j < n; ++j) {
      const double x = (2 * (i + 0.5) / n - 1) * w, y = (2 * (j + 0.5) / n - 1) * h;
      if (light.shape == LightShape::disc && x * x + y * y > w * w) continue;
      const Vec3 from = light.place + f.right * x + f.up * y, to = Vec3{0.2 + aside, 0, -0.1} - from;
      const double d2 = dot(to, to), ahead = dot(to, f.ahead) / std::sqrt(d2), down = -to.y / std::sqrt(d2);
      if (ahead <= 0 || down <= 0) continue;
      const double u = dot(to, f.right) / dot(to, f.ahead), v = dot(to, f.up) / dot(to, f.ahead);
      sum += light.shines->at(x, y, u, v) * ahead * down / d2 * (2 * w / n) * (2 * h / n);
    }
  return sum * light.full_luminance() * light.dimmer;
}

// Source: luminance is kept (Born & Wolf); printed for `fresnel-spot`: 14476.5 cd on the axis, 5986.92 at 12
// degrees.
TEST(Fronts, TheMeterReadsALensAsTheCalculation) {
  const Json doc =
      under_a_lamp({{"kind", "lens"}, {"source_radius", 0.006}, {"focal", 0.08}, {"distance", 0.06}}, 0.05, 400.0);
  EXPECT_NEAR(lux_at(doc, 0), 14476.5 / 160000, 0.01 * 14476.5 / 160000);
  const double aside = 400 * std::tan(radians(12)), c = std::cos(radians(12));
  EXPECT_NEAR(lux_at(doc, aside), 5986.92 * c * c * c / 160000, 0.02 * 5986.92 / 160000);
}

// Own behaviour: every front, near and far off its axis, against a sum of the test's own.
TEST(Fronts, TheMeterReadsEachAsItsFaceShines) {
  const std::map<std::string, std::pair<Json, double>> fronts{
      {"hot spot", {{{"kind", "cloth"}, {"gap", 0.1}, {"forward", 0.5}, {"lobe_deg", 15}}, 0.3}},
      {"inner cloth", {{{"kind", "cloth"}, {"gap", 0.1}, {"baffle", 0.15}}, 0.3}},
      {"beads behind a sheet", {{{"kind", "beads"}, {"pitch", 0.04}, {"gap", 0.015}}, 0.2}},
      {"tube", {{{"kind", "tube"}, {"length", 0.2}, {"mouth_radius", 0.04}}, 0.05}},
      {"gate",
       {{{"kind", "gate"}, {"gate_width", 0.03}, {"gate_height", 0.01}, {"focal", 0.1}, {"distance", 0.11}},
        0.04}}};
  for (const auto& [name, front] : fronts) {
    const Json doc = under_a_lamp(front.first, front.second, 1.2);
    for (const double aside : {0.0, 0.12, 0.3}) {
      const double own = own_sum(doc, aside);
      EXPECT_NEAR(lux_at(doc, aside), own, 0.015 * own + 0.5) << name << " " << aside;
    }
  }
}

// Own behaviour: a picture shows the face as it shines, and its light layer agrees with the meter.
TEST(Fronts, ThePictureShowsBeads) {
  Json doc = worlds::bare();
  Json panel = worlds::rectangle("panel", {0, 0.05, 0}, {0, 0.05, 1}, 0.2, 0.12, 2000);
  panel["front"] = {{"kind", "beads"}, {"pitch", 0.02}, {"bead_radius", 0.004}};
  doc["setups"][0]["lights"].push_back(panel);
  const Tracer tracer(staged(doc));
  const Film film = worlds::rendered(tracer, 160, 90, 16);
  const Picture picture = mixed(film, neutral_weights(tracer.world()));
  float most = 0;
  int dark = 0, face = 0;
  for (std::size_t p = 0; p < film.pixels(); ++p)
    if (film.first[p].mesh && film.first[p].mesh->light == 0) {
      ++face, most = std::max(most, picture.pixels[p].x);
      dark += picture.pixels[p].x < 1e-3f;
    }
  const double even = 2000 / (pi * 0.2 * 0.12);
  EXPECT_GT(face, 400);
  EXPECT_GT(dark, face / 3);  // between the beads
  EXPECT_NEAR(static_cast<double>(most), even * 0.02 * 0.02 / (pi * 0.004 * 0.004), 0.02 * even * 8);
}

/// A room of 3 x 4 x 2.5 m that reflects so much, its floor 1 m under the surface.
Json in_a_room(double reflectance) {
  Json doc = worlds::bare();
  doc["setups"][0]["room"] = {
      {"width", 3}, {"depth", 4}, {"height", 2.5}, {"reflectance", reflectance}, {"place", {0, -1, 0}}};
  return doc;
}

// Source: the integrating sphere's balance: what walls get times what they keep is what the lamp gives.
TEST(Room, ItsWallsKeepWhatTheLampGives) {
  Json doc = in_a_room(0.6);
  doc["setups"][0]["lights"].push_back({{"id", "b"},
                                        {"place", {0.3, 0.2, -0.4}},
                                        {"aim", {0, 0, 0}},
                                        {"shape", "bare"},
                                        {"radius", 0.03},
                                        {"lumens", 1000}});
  const Tracer tracer(staged(doc));
  double flux = 0;
  constexpr int n = 4;
  const Vec3 half{1.5, 1.25, 2}, middle{0, 0.25, 0};
  for (int axis = 0; axis < 3; ++axis)
    for (const double side : {-1.0, 1.0})
      for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j) {
          const double s = 2 * (i + 0.5) / n - 1, t = 2 * (j + 0.5) / n - 1;
          const Vec3 at = axis == 0 ? Vec3{side, s, t} : axis == 1 ? Vec3{s, side, t} : Vec3{s, t, side};
          const Vec3 normal = axis == 0 ? Vec3{-side, 0, 0} : axis == 1 ? Vec3{0, -side, 0} : Vec3{0, 0, -side};
          const double area = 4 * half.x * half.y * half.z /
                              (axis == 0   ? half.x
                               : axis == 1 ? half.y
                                           : half.z) /
                              (n * n);
          const Vec3 place = middle + Vec3{at.x * half.x, at.y * half.y, at.z * half.z} + normal * 1e-4;
          flux += illuminance(tracer, place, normal, {.paths = 2048}).total() * area;
        }
  EXPECT_NEAR(flux * (1 - 0.6), 1000, 30);
}

// Own behaviour: the ambient light is what was measured, with walls or without, and a camera outside sees in.
TEST(Room, LeavesTheAmbientAsItIsGiven) {
  for (const double reflectance : {0.0, 0.8}) {
    Json doc = in_a_room(reflectance);
    doc["setups"][0]["ambient"] = {{"illuminance_lx", 50}, {"kelvin", 4000}};
    EXPECT_NEAR(illuminance(Tracer(staged(doc)), {0.2, 0, 0.3}, {0, 1, 0}).total(), 50, 0.01);
  }
  const auto walls = [](const std::shared_ptr<const StagedWorld>& world) {
    return std::count_if(world->meshes.begin(), world->meshes.end(),
                         [](const Mesh& mesh) { return mesh.role == Role::room; });
  };
  Json doc = in_a_room(0.5);
  EXPECT_EQ(walls(staged(doc)), 6);
  doc["shots"][0]["camera"]["place"] = {0, 0.05, 3.5};
  EXPECT_EQ(walls(staged(doc)), 5);
}

/// With a window to the left, on a day and at an hour.
Json by_a_window(double hour, const std::string& sky) {
  Json doc = in_a_room(0.0);
  doc["project"].update({{"date", "2026-06-21"}, {"hour", hour}, {"latitude", 48.0}, {"longitude", 15.0}});
  doc["setups"][0]["room"].update({{"north_deg", 0}, {"sky", sky}, {"ground", 0.0}});
  doc["setups"][0]["room"]["windows"] = Json::array({Json{{"id", "w"},
                                                          {"wall", "left"},
                                                          {"along", 0.2},
                                                          {"low", 1.0},
                                                          {"width", 1.0},
                                                          {"height", 1.2},
                                                          {"transmittance", 0.8}}});
  return doc;
}

// Source: window light as printed for `window` (IES RP-21, Moon & Spencer 1942), followed to a place by a sum of
// the test's own.
TEST(Room, AWindowLightsBySkyAsItsPaneIsLit) {
  const Json doc = by_a_window(9.0, "overcast");
  const Project project = worlds::read(doc);
  const auto sun = sun_over_room(project, 0.0);
  ASSERT_TRUE(sun);
  const auto view = Outlook::of(sun->altitude_deg, sun->day_of_year, "overcast", 0.0);
  ASSERT_TRUE(view);
  const Vec3 place{0.1, 0, -0.3};
  double lux = 0;
  constexpr int n = 200;
  for (int i = 0; i < n; ++i)
    for (int j = 0; j < n; ++j) {
      const Vec3 pane{-1.5, 1.2 * (i + 0.5) / n, 0.2 - 0.5 + (j + 0.5) / n}, to = pane - place;
      const double d2 = dot(to, to), d = std::sqrt(d2);
      lux += 0.8 * view->luminance(std::asin(to.y / d), std::atan2(to.x, to.z) - radians(sun->bearing_deg)) *
             (to.y / d) * (-to.x / d) / d2 * 1.2 / (n * n);
    }
  EXPECT_NEAR(illuminance(Tracer(staged(doc)), place, {0, 1, 0}).total(), lux, 0.01 * lux);
  // A net before it scatters all of it evenly, half of it.
  Json net = doc;
  net["setups"][0]["room"]["windows"][0]["curtain"] = 0.5;
  const auto lit = window({sun->altitude_deg, sun->bearing_deg - (-90), sun->day_of_year, "overcast", 0.0});
  const Project behind = worlds::read(net);
  EXPECT_NEAR(behind.setups[0]->lights[0].full_luminance() * behind.setups[0]->lights[0].dimmer,
              lit->total_lx * 0.8 * 0.5 / pi, 1e-6 * lit->total_lx);
  EXPECT_NEAR(behind.setups[0]->lights[0].kelvin, 6500, 60);
}

// Source: geometry of the sun's beam, its place by Meeus (value from memory), its light as printed for `daylight`.
TEST(Room, TheSunFallsInWhereItStands) {
  const Json doc = by_a_window(9.0, "clear");
  const Project project = worlds::read(doc);
  ASSERT_EQ(project.setups[0]->lights.size(), 2u);
  const Light& beam = project.setups[0]->lights[1];
  ASSERT_TRUE(beam.beam);
  const auto sun = sun_over_room(project, 0.0);
  EXPECT_NEAR(degrees(std::asin(beam.beam->y)), sun->altitude_deg, 1e-9);
  EXPECT_LT(beam.beam->x, 0) << "it shines in from the left";
  const Vec3 pane{-1.5, 0.6, 0.2}, falls = pane - *beam.beam * (pane.y / beam.beam->y);
  const auto open = outdoor_light({sun->altitude_deg, sun->day_of_year, "clear"});
  const Tracer tracer(staged(doc));
  const double in = illuminance(tracer, falls, {0, 1, 0}).by_light[1],
               wanted = open->direct_normal_lx * std::sin(radians(sun->altitude_deg)) * 0.8;
  EXPECT_NEAR(in, wanted, 0.01 * wanted);
  // Beside the pool, which is as wide as the pane along the wall, there is none.
  EXPECT_NEAR(illuminance(tracer, falls + Vec3{0, 0, 0.47}, {0, 1, 0}).by_light[1], wanted, 0.01 * wanted);
  EXPECT_EQ(illuminance(tracer, falls + Vec3{0, 0, 0.53}, {0, 1, 0}).by_light[1], 0.0);
  // A flag in its way takes it.
  Json flagged = doc;
  flagged["setups"][0]["cards"] = Json::array(
      {worlds::card("flag", {falls.x + 0.3 * beam.beam->x, 0.3 * beam.beam->y, falls.z + 0.3 * beam.beam->z},
                    {falls.x, 0, falls.z}, 0.4, 0.4)});
  EXPECT_EQ(illuminance(Tracer(staged(flagged)), falls, {0, 1, 0}).by_light[1], 0.0);
  // In the picture the lit floor is as bright as it is lit.
  Json seen = doc;
  seen["setups"][0]["surface"] = {{"width", 2.8}, {"depth", 3.8}, {"material", worlds::matte(0.5, 0.5, 0.5)}};
  seen["shots"][0]["camera"].update({{"place", {falls.x, 1.0, falls.z + 0.01}}, {"aim", {falls.x, 0, falls.z}}});
  const Tracer above(staged(seen));
  const Film film = worlds::rendered(above, 32, 18, 64);
  const Picture picture = mixed(film, layer_weights(above.world(), "w-sun"));
  double mean = 0;
  for (int y = 7; y < 11; ++y)
    for (int x = 14; x < 18; ++x) mean += static_cast<double>(luminance(picture.pixels[film.at(x, y)])) / 16;
  const double white =
      static_cast<double>(luminance(layer_weights(above.world())[1])) / above.world().lights[1].level();
  EXPECT_NEAR(mean / white, wanted * 0.5 / pi, 0.03 * wanted * 0.5 / pi);
}

// Own behaviour: without a time, a place or north, or by night, a window is dark and says no more than it knows.
TEST(Room, AWindowIsDarkWhereNothingIsKnownOfTheSky) {
  Json doc = by_a_window(9.0, "clear");
  doc["project"].erase("hour");
  EXPECT_EQ(worlds::read(doc).setups[0]->lights.size(), 1u);
  EXPECT_EQ(worlds::read(doc).setups[0]->lights[0].lumens, 0.0);
  EXPECT_EQ(worlds::read(by_a_window(2.0, "clear")).setups[0]->lights[0].lumens, 0.0);
  Json closed = by_a_window(9.0, "clear");
  closed["setups"][0]["room"]["windows"][0]["on"] = false;
  EXPECT_EQ(illuminance(Tracer(staged(closed)), {0, 0, 0}, {0, 1, 0}).total(), 0.0);
}

// Own behaviour: what stands in a lamp's way keeps all of its light, half of it where half of the lamp is seen,
// and what is turned away gets none.
TEST(Shadows, AreWhatDirectLightDoesNotReach) {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {{"width", 2}, {"depth", 2}, {"material", worlds::matte(0.5, 0.5, 0.5)}};
  doc["setups"][0]["lights"] = Json::array({worlds::rectangle("top", {0, 1.5, 0}, {0, 0, 0}, 0.2, 0.2, 2000),
                                            worlds::rectangle("off", {1, 1, 0}, {0, 0, 0}, 0.2, 0.2, 2000)});
  doc["setups"][0]["lights"][1]["on"] = false;
  doc["setups"][0]["cards"] = Json::array({worlds::card("flag", {0.3, 0.5, 0}, {0.3, 0, 0}, 0.6, 0.4)});
  doc["shots"][0]["camera"].update({{"place", {0, 0.4, 1.2}}, {"aim", {0, 0, 0}}});
  const Tracer tracer(staged(doc));
  const std::vector<float> map = shadows_alone(tracer, tracer.world(), 160, 90);
  ASSERT_EQ(map.size(), 160u * 90u);
  const auto at = [&](double x, double z) {
    const auto image = image_of(tracer.world().camera.middle_pose(), {x, 0, z});
    const ShotOptics& o = tracer.world().camera.optics;
    const int px = static_cast<int>((0.5 + image->x / o.sensor_width) * 160),
              py = static_cast<int>((0.5 - image->y / o.sensor_height) * 90);
    return static_cast<double>(map[static_cast<std::size_t>(py * 160 + px)]);
  };
  // The flag reaches from the axis to 0.6 m: its edge's shadow lies under it, half there.
  EXPECT_NEAR(at(-0.12, 0), 0.0, 0.01);
  EXPECT_NEAR(at(0.0, 0), 0.5, 0.12);
  EXPECT_NEAR(at(0.12, 0), 1.0, 0.01);
  // Asked again they are the same; a light that is off throws none, and cancelled there is nothing.
  EXPECT_EQ(shadows_alone(tracer, tracer.world(), 160, 90), map);
  const auto none = shadows_alone(tracer, tracer.world(), 160, 90, "off");
  EXPECT_EQ(*std::max_element(none.begin(), none.end()), 0.0f);
  const std::atomic<bool> cancel{true};
  EXPECT_TRUE(shadows_alone(tracer, tracer.world(), 160, 90, {}, &cancel).empty());
}

// Source: Born & Wolf, as printed for `polariser`: 1.5, 50 degrees: an ideal film turned best passes 0.0284197 of
// the glare's, and at Brewster's angle none.
TEST(Polarisers, TakeTheGlareOfADielectric) {
  // A black glossy table under an even surround, seen at 50 degrees from its normal: what is seen is glare alone.
  const auto glare = [](std::optional<double> film, double angle_deg) {
    Json doc = worlds::bare();
    doc["setups"][0]["surface"] = {
        {"width", 50}, {"depth", 50}, {"material", {{"kind", "gloss"}, {"colour", {0, 0, 0}}, {"ior", 1.5}}}};
    doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000 * pi}, {"kelvin", 5600}};
    const double a = radians(angle_deg);
    doc["shots"][0]["camera"].update({{"place", {0, std::cos(a), std::sin(a)}}, {"aim", {0, 0, 0}}});
    if (film) doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", *film}, {"stops", 1}};
    const Tracer tracer(staged(doc));
    const Film picture = worlds::rendered(tracer, 33, 19, 32);
    return static_cast<double>(
        luminance(mixed(picture, neutral_weights(tracer.world())).pixels[picture.at(16, 9)]));
  };
  const double plain = glare({}, 50), upright = glare(0.0, 50), level = glare(90.0, 50);
  // Light that lies level is what a table mirrors most of: an upright film takes that.
  EXPECT_NEAR(upright / plain, 2 * 0.0284197, 0.004);
  EXPECT_NEAR((upright + level) / 2, plain, 0.01 * plain);
  EXPECT_NEAR(glare(45.0, 50), plain, 0.01 * plain);
  EXPECT_LT(glare(0.0, 56.3099) / glare({}, 56.3099), 0.003);
  // It takes light from everything else.
  Json doc = worlds::bare();
  const double without = staged(doc)->camera.nd_stops;
  doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", 30}};
  EXPECT_NEAR(staged(doc)->camera.nd_stops - without, 1.5, 1e-12);
}

// Source: three linear bands, as printed for `gel-colour`: 5600 K behind 0.1, 0.5, 0.45 lets 0.404136 through.
TEST(Gels, ColourAndDimALight) {
  Json doc = worlds::bare();
  Json key = worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.3, 0.3, 2000);
  doc["setups"][0]["lights"] = Json::array({key});
  const double plain = lux_at(doc, 0);
  doc["setups"][0]["lights"][0]["gel_bands"] = {0.1, 0.5, 0.45};
  EXPECT_NEAR(lux_at(doc, 0) / plain, 0.404136, 1e-5);
  const auto world = staged(doc);
  const Rgb weight = layer_weights(*world)[0];
  EXPECT_NEAR(weight.x / weight.y, 0.1 / 0.5, 0.05);  // teal, under a camera balanced to the lamp
  EXPECT_NEAR(weight.z / weight.y, 0.45 / 0.5, 0.05);
  EXPECT_NEAR(static_cast<double>(luminance(weight)), world->lights[0].level(), 1e-3 * world->lights[0].level());
}

}  // namespace
}  // namespace cinnabar
