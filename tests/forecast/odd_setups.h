// Set-ups that no demo has: cameras that look down, products off the origin, tall frames, no backdrop, twenty
// lights, ramped time.
#pragma once
#include <cmath>
#include <cstdlib>
#include <functional>
#include <ostream>
#include <random>

#include "judging.h"

namespace cinnabar::odd_setups {

/// A lit, labelled can on a table before a grey backdrop.
inline Json set_up() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}, true);
  Json& setup = doc["setups"][0];
  setup["surface"] = {
      {"width", 1.2}, {"depth", 0.8}, {"material", {{"kind", "matte"}, {"colour", {0.4, 0.4, 0.4}}}}};
  setup["backdrop"] = {{"kind", "flat"},
                       {"distance", 0.8},
                       {"width", 2.4},
                       {"height", 1.6},
                       {"material", {{"kind", "matte"}, {"colour", {0.2, 0.2, 0.2}}}}};
  setup["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.6}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  setup["lights"].push_back(worlds::rectangle("ground", {-0.9, 0.7, -0.3}, {0, 0.4, -0.8}, 0.3, 0.3, 1500));
  setup["lights"][0]["kit"] = setup["lights"][1]["kit"] = "led";
  doc["kit"]["lights"][0]["ripple"] = 0.05;
  doc["kit"]["lights"][0]["count"] = 4;
  doc["house_rules"] = {{"backdrop", "colour"}};
  return doc;
}

/// Set-ups that no demo has.
struct Odd {
  std::string name;
  std::function<void(Json& doc)> change;
  bool random = false;  ///< not made by hand: what is asked of it may be out of its reach
};
inline void PrintTo(const Odd& odd, std::ostream* out) { *out << odd.name; }
inline const Odd odds[] = {
    {"plain", [](Json&) {}},
    {"looking_down",
     [](Json& doc) {
       doc["shots"][0]["camera"]["place"] = {0.0, 1.0, 0.02};
       doc["shots"][0]["camera"]["aim"] = {0, 0.05, 0};
     }},
    {"away_from_the_origin",
     [](Json& doc) {
       doc["shots"][0]["products"][0]["place"] = {0.25, 0, 0.15};
       doc["shots"][0]["products"][0].erase("on");
       doc["shots"][0]["camera"]["place"] = {0.25, 0.1, 1.0};
       doc["shots"][0]["camera"]["aim"] = {0.25, 0.05, 0.15};
       doc["shots"][0]["camera"]["focus"] = 0.82;
     }},
    {"tall_frame",
     [](Json& doc) {
       doc["shots"][0]["camera"]["roll_deg"] = 90;
       doc["deliverables"][0]["width"] = 1080, doc["deliverables"][0]["height"] = 1920;
     }},
    {"no_backdrop", [](Json& doc) { doc["setups"][0].erase("backdrop"); }},
    {"twenty_lights",
     [](Json& doc) {
       for (int i = 0; i < 18; ++i)
         doc["setups"][0]["lights"].push_back(worlds::rectangle(
             "l" + std::to_string(i), {0.9 * std::cos(i), 0.5, 0.9 * std::sin(i)}, {0, 0.05, 0}, 0.1, 0.1, 60));
     }},
    {"travelling",
     [](Json& doc) {
       const auto track = [](const std::string& target, const Json& from, const Json& to) {
         return Json{{"target", target}, {"profile", "s-curve"}, {"keys", {{0, from}, {1, to}}}};
       };
       const std::string product = "product." + doc["products"][0]["id"].get<std::string>();
       doc["shots"][0]["tracks"] = {track("camera.place", {-0.15, 0.1, 1.0}, {0.15, 0.2, 0.9}),
                                    track("camera.aim", {0, 0.05, 0}, {0.02, 0.05, 0}),
                                    track("camera.focal", 0.05, 0.055),
                                    track(product + ".place", {0, 0, 0}, {0.03, 0, 0}),
                                    track(product + ".tilt", 0, 4),
                                    track("light.key.place", {0.5, 0.6, 0.6}, {0.3, 0.6, 0.7}),
                                    track("crop", {0, 0, 1}, {0.05, 0.05, 0.9})};
       doc["kit"]["supports"].push_back({{"id", "rail"},
                                         {"name", "Rail"},
                                         {"kind", "slider"},
                                         {"travel", 1.0},
                                         {"speed", 1.5},
                                         {"acceleration", 4.0},
                                         {"repeat", 2e-5}});
       doc["shots"][0]["camera"]["on"] = "rail";
       doc["shots"][0]["camera"]["shake"] = {{"rms_deg", 0.02}, {"corner_hz", 1.5}, {"seed", 4}};
     }},
    {"by_a_window",
     [](Json& doc) {
       doc["project"].update({{"date", "2026-04-12"}, {"hour", 10.0}, {"latitude", 47.0}, {"longitude", 11.0}});
       doc["setups"][0]["room"] = {
           {"width", 4.5},
           {"depth", 5.0},
           {"height", 2.6},
           {"reflectance", 0.4},
           {"north_deg", 160},
           {"windows",
            {{{"id", "w"}, {"wall", "left"}, {"along", -0.3}, {"low", 0.9}, {"width", 1.0}, {"height", 1.3}},
             {{"id", "net"}, {"wall", "front"}, {"width", 0.8}, {"height", 1.0}, {"curtain", 0.5}}}}};
       Json& lights = doc["setups"][0]["lights"];
       lights[0]["front"] = {{"kind", "cloth"}, {"gap", 0.2}, {"forward", 0.4}};
       lights[1].update({{"shape", "disc"}, {"radius", 0.05}});
       for (const char* key : {"width", "height"}) lights[1].erase(key);
       lights[1]["front"] = {{"kind", "lens"}, {"source_radius", 0.01}, {"focal", 0.08}, {"distance", 0.05}};
       lights[1]["gel_bands"] = {0.9, 0.5, 0.2};
       doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", 20}};
     }},
    {"dressed_up",
     [](Json& doc) {
       Json& setup = doc["setups"][0];
       setup["surface"]["material"] = {
           {"kind", "satin"}, {"colour", {0.4, 0.3, 0.2}}, {"texture", {{"kind", "wood"}, {"turn_deg", 20}}}};
       setup["backdrop"]["material"]["texture"] = {{"kind", "weave"}, {"size", 0.2}};
       Json& lights = setup["lights"];
       lights[0]["film"] = {{"angle_deg", 70}};
       lights[1].update({{"shape", "dome"}, {"radius", 0.2}});
       for (const char* key : {"width", "height"}) lights[1].erase(key);
       lights[1]["gel_curve"] = {
           {{"nm", 400}, {"share", 0.1}}, {{"nm", 560}, {"share", 0.5}}, {{"nm", 700}, {"share", 0.9}}};
       setup["cards"].push_back(worlds::card("sheet", {0.3, 0.4, 0.4}, {0, 0.05, 0}, 0.5, 0.5,
                                             {{"kind", "translucent"},
                                              {"colour", {0.9, 0.9, 0.9}},
                                              {"transmittance", 0.7},
                                              {"forward", 0.5},
                                              {"lobe_deg", 12}}));
       doc["shots"][0]["camera"]["polariser"] = {{"angle_deg", 20}};
     }},
    {"ramped", [](Json& doc) {
       doc["shots"][0]["play"] = {{0, 1.0}, {0.6, 0.25}};
       doc["shots"][0]["tracks"] = Json::array(
           {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, -60}, {1.0, 20}}}},
            {{"target", "light.key.dimmer"}, {"profile", "linear"}, {"keys", {{0, 0.2}, {1.0, 1.0}}}}});
     }}};

/// Tried in each of them.
class OddTest : public testing::TestWithParam<Odd> {
 protected:
  static Json doc() {
    Json d = set_up();
    GetParam().change(d);
    return d;
  }
};

/// Set-ups drawn from a seed: anything anywhere, looked at from anywhere.
inline void scatter(Json& doc, unsigned seed) {
  std::mt19937 random(seed);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  const auto one_in = [&](unsigned n) { return random() % n == 0; };
  Json& product = doc["products"][0];
  const double wider = between(0.3, 2.5), taller = between(0.3, 3.0);
  for (Json& point : product["parts"][0]["profile"])
    point = Json::array({point[0].get<double>() * wider, point[1].get<double>() * taller});
  for (const char* edge : {"low", "high"}) product["label"][edge] = product["label"][edge].get<double>() * taller;
  product["label"]["bearing_deg"] = between(-170, 170);
  product["mass"] = between(0.05, 6.0);
  const double middle = 0.05 * taller;
  const Json place{one_in(2) ? 0.0 : between(-0.3, 0.3), 0.0, one_in(2) ? 0.0 : between(-0.2, 0.2)};
  doc["shots"][0]["products"][0]["place"] = place;
  doc["shots"][0]["products"][0]["turn_deg"] = between(-180, 180);
  const double x = place[0], z = place[2], round_by = between(-pi, pi), up = between(0.0, 1.3),
               away = between(0.35, 2.5) + 0.05 * (wider + taller);
  Json& camera = doc["shots"][0]["camera"];
  const Vec3 aside{between(-0.03, 0.03), between(-0.03, 0.03), between(-0.03, 0.03)};
  camera["place"] = {x + away * std::cos(up) * std::sin(round_by), middle + 0.05 + away * std::sin(up),
                     z + away * std::cos(up) * std::cos(round_by)};
  camera["aim"] = {x + aside.x, middle + aside.y, z + aside.z};
  camera["focus"] = away;
  camera["roll_deg"] = one_in(3) ? 90.0 : one_in(2) ? 0.0 : between(-20, 20);
  camera["mode"] = one_in(2) ? "m25" : "m100";
  camera["shutter_time"] = 0.005;
  if (one_in(3)) doc["deliverables"][0]["width"] = 1080, doc["deliverables"][0]["height"] = 1920;
  if (one_in(3)) doc["setups"][0].erase("backdrop");
  if (one_in(6)) doc["setups"][0]["lights"][0]["on"] = false;
  const char* rates[] = {"24", "25", "30", "24000/1001", "50"};
  doc["project"]["timeline_rate"] = rates[random() % 5];
  if (one_in(2)) doc["shots"][0]["play"] = {{0, between(0.3, 1.0)}, {between(0.3, 1.5), between(0.1, 1.0)}};
  Json tracks = Json::array();
  const char* shapes[] = {"linear", "minimum-jerk", "s-curve", "trapezoid-1-3"};
  if (one_in(2))
    tracks.push_back(worlds::moving("turntable", shapes[random() % 4],
                                    {{0, between(-180, 0)}, {between(0.5, 3.0), between(0, 200)}}));
  if (one_in(4))
    tracks.push_back(
        worlds::moving("camera.pan", shapes[random() % 4], {{0, 0}, {between(0.5, 3.0), between(-5, 5)}}));
  if (one_in(4))
    tracks.push_back(worlds::moving("product.can.place", "minimum-jerk",
                                    {{0, place}, {between(0.5, 3.0), {x + between(-0.1, 0.1), 0.0, z}}}));
  doc["shots"][0]["tracks"] = tracks;
}
/// How many seeds: some in daily runs; CINNABAR_SEEDS=24 where every landing is tried, 200 once.
inline unsigned seeds(unsigned daily) {
  const char* asked = std::getenv("CINNABAR_SEEDS");
  const int count = asked ? std::atoi(asked) : 0;
  return count > 0 ? static_cast<unsigned>(count) : daily;
}
inline std::vector<Odd> scattered(unsigned count) {
  std::vector<Odd> list;
  for (unsigned seed = 1; seed <= count; ++seed)
    list.push_back({"seed_" + std::to_string(seed), [seed](Json& doc) { scatter(doc, seed); }, true});
  return list;
}

}  // namespace cinnabar::odd_setups
