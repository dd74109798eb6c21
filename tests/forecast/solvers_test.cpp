// Solvers of movement: every answer is staged here again and held against what was asked, by sums of its own, in
// set-ups that no demo has.
#include "cinnabar/forecast/solvers/solvers.h"

#include <random>

#include "cinnabar/project/checks/validation.h"
#include "cinnabar/scene/form.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {
using namespace odd_setups;

Solved solved_for(const Json& doc, const std::string& kind, const std::vector<std::string>& words = {}) {
  const auto request = read_solve(kind, words);
  EXPECT_TRUE(request) << request.error().text();
  const auto solved = solve(Forecaster(quick_measure), *Document::from_json(doc), 0, *request);
  EXPECT_TRUE(solved) << kind << ": " << (solved ? "" : solved.error().text());
  return solved ? *solved : Solved{};
}
/// The same, where it is refused.
std::string refused(const Json& doc, const std::string& kind, const std::vector<std::string>& words = {}) {
  const auto request = read_solve(kind, words);
  if (!request) return request.error().text();
  const auto solved = solve(Forecaster(quick_measure), *Document::from_json(doc), 0, *request);
  return solved ? "" : solved.error().text();
}
/// Turned as the label is at a screen time, in a document.
double label_at(const Document& doc, double screen) {
  const Project p = ProjectReader().read(doc);
  const Shot& shot = *p.shots[0];
  const double t = shot.clock.set_at(screen);
  return p.products[0]->label->bearing_deg + product_at(p, shot, shot.products[0], t).turn_deg;
}

class OddMoves : public testing::TestWithParam<Odd> {
 protected:
  static Json doc() {
    Json d = set_up();
    d["project"]["bpm"] = 120;
    GetParam().change(d);
    d["shots"][0]["screen_time"] = 4.0;
    return d;
  }
  /// Whether there are answers. Made by hand a set-up has some; a random one has, or is told why not.
  static bool answered(const Solved& solved) {
    if (!solved.list.empty()) return true;
    EXPECT_TRUE(GetParam().random) << solved.impossible;
    EXPECT_FALSE(solved.impossible.empty());
    return false;
  }
};

// Own behaviour: within 20 degrees of the bearing all the time asked, by sampling here.
TEST_P(OddMoves, FaceTheLabel) {
  for (const auto& [bearing, at, lasting] : {std::tuple{0.0, 2.5, 0.5}, {-75.0, 1.5, 1.2}, {130.0, 3.0, 0.3}}) {
    const Solved solved = solved_for(
        doc(), "facing",
        {"bearing=" + std::to_string(bearing), "at=" + std::to_string(at), "for=" + std::to_string(lasting)});
    if (!answered(solved)) continue;
    for (const SolveAnswer& one : solved.list) {
      EXPECT_TRUE(validate(one.after).empty()) << one.title;
      double run = 0;
      const auto faces = [&, bearing = bearing](double screen) {
        return std::abs(std::remainder(label_at(one.after, screen) - bearing, 360.0)) < 20.0 + 1e-6;
      };
      ASSERT_TRUE(faces(at)) << one.title;
      for (double s = at; s >= 0 && faces(s); s -= 0.002) run += 0.002;
      for (double s = at; s <= 4.0 && faces(s); s += 0.002) run += 0.002;
      EXPECT_GE(run, lasting - 0.01) << one.title;
    }
  }
}

// Own behaviour: the product's middle stays in the middle of the frame, by projecting here.
TEST_P(OddMoves, KeepTheProductInTheMiddle) {
  Json d = doc();
  d["shots"][0]["camera"]["slide_axis"] = {1, 0, 0};
  d["shots"][0]["tracks"].push_back(
      {{"target", "camera.slide"}, {"profile", "minimum-jerk"}, {"keys", {{0, -0.1}, {1.0, 0.15}}}});
  const Solved solved = solved_for(d, "centred");
  if (!answered(solved)) return;
  for (const SolveAnswer& one : solved.list) {
    const Project p = ProjectReader().read(one.after);
    const Shot& shot = *p.shots[0];
    const auto [low, high] = height_span(*p.products[0]);
    for (double t = 0; t <= shot.set_time(); t += 0.05) {
      const auto image =
          image_of(camera_at(shot, t), product_at(p, shot, shot.products[0], t).world({0, (low + high) / 2, 0}));
      ASSERT_TRUE(image);
      EXPECT_LT(std::hypot(image->x, image->y), 0.011 * shot_optics(p, shot).sensor_width) << one.title << t;
    }
  }
}

// Own behaviour: round by the angle asked, at the same distance and height.
TEST_P(OddMoves, GoRoundAtTheSameSize) {
  for (const double by : {60.0, -200.0}) {
    const auto request = read_solve("orbit", {"degrees=" + std::to_string(by)});
    const auto solved = solve(Forecaster(quick_measure), *Document::from_json(doc()), 0, *request);
    ASSERT_TRUE(solved);
    if (!answered(*solved)) continue;
    for (const SolveAnswer& one : solved->list) {
      const Project p = ProjectReader().read(one.after);
      const Shot& shot = *p.shots[0];
      const auto [low, high] = height_span(*p.products[0]);
      const auto from_axis = [&, low = low, high = high](double t) {
        return camera_at(shot, t).place - product_at(p, shot, shot.products[0], t).world({0, (low + high) / 2, 0});
      };
      const Vec3 from = from_axis(0);
      double way = 0, last = std::atan2(from.x, from.z);
      for (int k = 1; k <= 400; ++k) {
        const Vec3 at = from_axis(shot.set_time() * k / 400);
        way += std::remainder(std::atan2(at.x, at.z) - last, 2 * pi);
        last = std::atan2(at.x, at.z);
        EXPECT_NEAR(length(at), length(from), 0.003 * length(from));
        EXPECT_NEAR(at.y, from.y, 1e-4);
      }
      EXPECT_NEAR(degrees(way), by, 0.1) << one.title;
    }
  }
}

// Source: the circle, by three of its points here: the camera stays on one of the arm's radius in one upright
// plane, comes as far round as asked, and looks at the product, as sharp as it was.
TEST_P(OddMoves, SwingOnAnArm) {
  for (const auto& [rise, arm] : {std::pair{30.0, 0.9}, {12.0, 4.0}}) {
    Json d = doc();
    d["shots"][0]["camera"]["place"][1] = d["shots"][0]["camera"]["place"][1].get<double>() + 0.2;
    const Project before = worlds::read(d);
    const CameraPose first = camera_at(*before.shots[0], 0.0);
    const Solved solved =
        solved_for(d, "boom", {"rise=" + std::to_string(rise), "arm=" + std::to_string(arm), "begins=5"});
    if (!answered(solved)) continue;
    for (const SolveAnswer& one : solved.list) {
      EXPECT_TRUE(validate(one.after).empty()) << one.title;
      const Project p = ProjectReader().read(one.after);
      const Shot& shot = *p.shots[0];
      const auto at = [&](double share) { return camera_at(shot, share * shot.set_time()); };
      const Vec3 a = at(0).place, b = at(0.5).place, c = at(1).place;
      const double ab = length(b - a), bc = length(c - b), ca = length(a - c);
      const double radius = ab * bc * ca / (2.0 * length(cross(b - a, c - a)));
      EXPECT_NEAR(radius, arm, 0.01 * arm) << one.title;
      EXPECT_NEAR(2.0 * degrees(std::asin(ca / (2.0 * arm))), rise, 0.1) << one.title;
      EXPECT_NEAR(length(a - first.place), 0.0, 1e-4) << "it begins where it stood";
      EXPECT_NEAR(c.y - a.y, arm * (std::sin(radians(5 + rise)) - std::sin(radians(5))), 0.01) << one.title;
      const auto middle = [&](double share) {
        const auto [low, high] = height_span(*p.products[0]);
        return product_at(p, shot, shot.products[0], share * shot.set_time()).world({0, (low + high) / 2, 0});
      };
      for (const double share : {0.0, 0.31, 0.77, 1.0}) {
        const CameraPose pose = at(share);
        const double sharp = pose.focus - length(middle(share) - pose.place),
                     was = first.focus - length(middle(0) - first.place);
        EXPECT_NEAR(sharp, was, 2e-3) << one.title << share;
      }
    }
  }
  const Solved into = solved_for(doc(), "boom", {"rise=-80", "arm=5"});
  EXPECT_TRUE(into.list.empty());
  EXPECT_FALSE(into.impossible.empty());
  if (!GetParam().random) {
    EXPECT_NE(into.impossible.find("come down to"), std::string::npos) << into.impossible;
  }
  EXPECT_NE(refused(doc(), "boom", {"rise=80", "begins=40"}).find("over the upright"), std::string::npos);
}

// Own behaviour: the height in the frame at the end is what was asked, the crop's counted.
TEST_P(OddMoves, EndAtTheSizeAsked) {
  for (const double to : {20.0, 65.0}) {
    if (GetParam().random &&
        refused(doc(), "push", {"to=" + std::to_string(to)}).find("already") != std::string::npos)
      continue;
    const Solved solved = solved_for(doc(), "push", {"to=" + std::to_string(to)});
    if (!answered(solved)) continue;
    for (const SolveAnswer& one : solved.list) {
      const Project p = ProjectReader().read(one.after);
      const Shot& shot = *p.shots[0];
      const double end = shot.set_time();
      const auto [low, high] = height_span(*p.products[0]);
      const ProductPose pose = product_at(p, shot, shot.products[0], end);
      const ShotOptics o = shot_optics(p, shot);
      double bottom = 1e9, top = -1e9;  // of the can's two rims
      for (const double y : {low, high})
        for (int k = 0; k < 72; ++k) {
          const auto at = image_of(camera_at(shot, end),
                                   pose.world(turned(Vec3{widest_reach(*p.products[0]), y, 0}, 5.0 * k)));
          ASSERT_TRUE(at) << one.title;
          const double up = o.turned == 0 ? at->y : at->x;
          bottom = std::min(bottom, up), top = std::max(top, up);
        }
      const double frame = o.turned == 0 ? o.sensor_height : o.sensor_width;
      const double kept = crop_at(shot, end).value_or(Vec3{0, 0, 1}).z;
      EXPECT_NEAR(100 * (top - bottom) / frame / kept, to, 0.01 * to) << one.title;
    }
  }
}

// Own behaviour: the focus is there when it was to land, and the film is slow from then on.
TEST_P(OddMoves, LandOnTheirMoment) {
  const Solved racks = solved_for(doc(), "rack", {"from=0.9", "to=1.3", "at=3"});
  if (answered(racks)) {
    EXPECT_EQ(racks.list.size(), 2u) << racks.impossible;
  }
  for (const SolveAnswer& one : racks.list) {
    const Project p = ProjectReader().read(one.after);
    const Shot& shot = *p.shots[0];
    const double lands = shot.clock.set_at(3.0);
    EXPECT_NEAR(camera_at(shot, lands).focus, 1.3, 1e-4);
    EXPECT_NEAR(camera_at(shot, lands - 0.8).focus, 0.9, 1e-4);
    EXPECT_LT(camera_at(shot, lands - 0.2).focus, 1.3 - 1e-3) << "not before";
  }
  const Solved ramps = solved_for(doc(), "ramp", {"at=2", "slow=5", "over=0.1"});
  if (!answered(ramps)) return;
  const Project p = ProjectReader().read(ramps.list[0].after);
  const PlayClock& clock = p.shots[0]->clock;
  EXPECT_NEAR(clock.speed_at(clock.set_at(2.0 + 1.0 / p.timeline_rate)), 0.2, 1e-6);
  EXPECT_GT(clock.speed_at(clock.set_at(2.0 - 2.0 / p.timeline_rate)), 0.21);
  EXPECT_NEAR(clock.speed_at(0), 1.0, 1e-9);
}

// Own behaviour: as many turns as were asked, by the track's own numbers; a loop ends where it began; whatever the
// turntable or the other tracks do not allow is said.
TEST_P(OddMoves, TurnSoOftenAndComeBack) {
  const auto turned_by = [](const SolveAnswer& one) {
    const Project p = ProjectReader().read(one.after);
    const KeyedTrack* table = p.shots[0]->track("turntable");
    return table ? table->at(p.shots[0]->set_time()) - table->at(0) : 0.0;
  };
  const double spun_in = worlds::read(doc()).shots[0]->set_time();  // keys stand at whole microseconds of it
  for (const double turns : {0.25, -0.4}) {
    const Solved spins = solved_for(doc(), "spin", {"turns=" + std::to_string(turns)});
    if (spins.list.empty()) {
      EXPECT_FALSE(spins.impossible.empty());
    }
    for (const SolveAnswer& one : spins.list) {
      EXPECT_TRUE(validate(one.after).empty()) << one.title;
      EXPECT_NEAR(turned_by(one), 360.0 * turns, 1e-6 * (1.0 + 360.0 * std::abs(turns) / spun_in)) << one.title;
    }
  }
  Json d = doc();
  if (!d["shots"][0].contains("tracks")) d["shots"][0]["tracks"] = Json::array();
  std::erase_if(d["shots"][0]["tracks"].get_ref<Json::array_t&>(),
                [](const Json& track) { return track["target"] == "turntable"; });
  const double end = worlds::read(d).shots[0]->set_time();
  d["shots"][0]["tracks"].push_back(worlds::moving("turntable", "linear", {{0, 15}, {end, 15 + 330}}));
  const Solved loops = solved_for(d, "loop");
  if (loops.list.empty()) {
    EXPECT_FALSE(loops.impossible.empty());
  }
  for (const SolveAnswer& one : loops.list)
    EXPECT_NEAR(std::remainder(turned_by(one), 360.0), 0.0, 1e-4) << one.title;
}

// Own behaviour: foot, middle and top stand in the same places of the frame, by projecting here.
TEST_P(OddMoves, MatchWhatAnotherShotEndsWith) {
  Json d = doc();
  Json other = d["shots"][0];
  other["id"] = "other";
  const Json from = other["camera"]["place"];
  other["camera"]["place"] = {0.8 * from[2].get<double>() + 0.1, from[1].get<double>() + 0.15,
                              0.2 - 0.8 * from[0].get<double>()};
  other["camera"]["roll_deg"] = 12;
  other["tracks"] = Json::array();
  d["shots"].push_back(other);
  const Solved solved = solved_for(d, "match", {"with=2"});
  if (!answered(solved)) return;
  const Project p = ProjectReader().read(solved.list[0].after);
  const auto seen = [&](std::size_t shot, double t, double up) {
    const Shot& s = *p.shots[shot];
    const auto [low, high] = height_span(*p.products[0]);
    const auto at =
        image_of(camera_at(s, t), product_at(p, s, s.products[0], t).world({0, low + up * (high - low), 0}));
    return at ? std::pair{at->x / 0.036, at->y / 0.036} : std::pair{9.0, 9.0};
  };
  for (const double up : {0.0, 0.5, 1.0}) {
    EXPECT_NEAR(seen(0, 0, up).first, seen(1, p.shots[1]->set_time(), up).first, 0.004) << up;
    EXPECT_NEAR(seen(0, 0, up).second, seen(1, p.shots[1]->set_time(), up).second, 0.004) << up;
  }
}

// Source: inverse square and Lambert's cosine, at both ends, summed here: an upright patch at the product, facing
// the bearing asked, gets the most of the light while the label is within 5 % of a turn of it.
TEST_P(OddMoves, LetALightPeakWithTheLabel) {
  Json d = doc();
  d["shots"][0]["needs"]["facing"] = {{"bearing_deg", 20}, {"at", 2.0}, {"for", 0.2}};
  auto& tracks = d["shots"][0]["tracks"];
  for (std::size_t k = tracks.size(); k-- > 0;)
    if (tracks[k]["target"] == "turntable") tracks.erase(k);
  tracks.push_back({{"target", "turntable"}, {"keys", {{0, -150}, {40, 11850}}}});  // 300 degrees a second
  const std::string id = d["setups"][0]["lights"][0]["id"];
  const Solved solved = solved_for(d, "peak", {"light=" + id});
  if (!answered(solved)) return;
  for (const SolveAnswer& one : solved.list) {
    EXPECT_TRUE(validate(one.after).empty()) << one.title;
    const Project p = ProjectReader().read(one.after);
    const Shot& shot = *p.shots[0];
    const Light& light = p.setups[0]->lights[0];
    const bool carried = shot.track(Tracked::light_turn, id) || shot.track(Tracked::light_place, id) ||
                         shot.track(Tracked::light_aim, id);
    const auto [low, high] = height_span(*p.products[0]);
    double most = -1, away = 180;
    for (int k = 0; k <= 8000; ++k) {
      const double t = shot.set_time() * k / 8000;
      const Light now = light_at(light, shot, t);
      const ProductPose pose = product_at(p, shot, shot.products[0], t);
      const Vec3 to = now.place - pose.world({0, (low + high) / 2, 0}), way = unit(to);
      const double faces = std::max(0.0, way.x * std::sin(radians(20)) + way.z * std::cos(radians(20))),
                   shines = std::max(0.0, -dot(way, unit(now.aim - now.place)));
      const double gives = now.dimmer * (carried ? faces * shines / dot(to, to) : 1.0);
      const double off = std::abs(std::remainder(p.products[0]->label->bearing_deg + pose.turn_deg - 20, 360.0));
      if (gives > most * (1 + 1e-4)) most = gives, away = 180;
      if (gives > most * (1 - 1e-4)) away = std::min(away, off);
    }
    EXPECT_GT(most, 0) << one.title;
    EXPECT_LT(away, 0.05 * 360 + 0.5) << one.title;
  }
}

// Source: by hand: so many pictures of `hold` frames each, the turn in even steps; every frame of the film,
// through its whole exposure, finds the table standing where its picture has it.
TEST_P(OddMoves, StandStillForEveryPicture) {
  for (const auto& [hold, turn] : {std::pair{2, 360.0}, {3, -120.0}}) {
    const Solved solved =
        solved_for(doc(), "stop-motion", {"hold=" + std::to_string(hold), "degrees=" + std::to_string(turn)});
    if (!answered(solved)) continue;
    for (const SolveAnswer& one : solved.list) {
      EXPECT_TRUE(validate(one.after).empty()) << one.title;
      const Project p = ProjectReader().read(one.after);
      const Shot& shot = *p.shots[0];
      const double rate = p.timeline_rate;
      const long frames = std::lround(4.0 * rate), pictures = std::lround(std::ceil(4.0 * rate / hold - 1e-9));
      for (long n = 0; n + hold <= frames; ++n)
        for (const double in : {0.02, 0.9}) {
          const double t = shot.clock.set_at((static_cast<double>(n) + in) / rate);
          EXPECT_NEAR(shot.track(Tracked::turntable)->at(t),
                      turn / static_cast<double>(pictures) * std::floor(n / hold), 1e-2)
              << one.title << " frame " << n;
        }
    }
  }
}

INSTANTIATE_TEST_SUITE_P(Odd, OddMoves, testing::ValuesIn(odds), [](const auto& odd) { return odd.param.name; });
INSTANTIATE_TEST_SUITE_P(Seeds, OddMoves, testing::ValuesIn(scattered(seeds(6))),
                         [](const auto& odd) { return odd.param.name; });

// Source: by hand: 12 degrees a second, bearing 0 asked at 9 s on the set: it starts at -108.
TEST(SolvedMoves, StartTheLabelWhereItHasToStart) {
  Json d = set_up();
  d["products"][0]["label"]["bearing_deg"] = 0;
  d["shots"][0]["screen_time"] = 10;
  d["shots"][0]["tracks"] = {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {10, 120}}}}};
  const Solved solved = solved_for(d, "facing", {"bearing=0", "at=9", "for=0.5"});
  ASSERT_FALSE(solved.list.empty()) << solved.impossible;
  EXPECT_EQ(value_at(solved.list[0].after, "/shots/0/products/0/turn_deg"), std::optional<Json>(-108.0));
}

// Own behaviour: the light is at its most as the label is nearest its bearing, looked at in fine steps here.
TEST(SolvedMoves, LetALightPeakWithTheLabel) {
  Json d = set_up();
  d["shots"][0]["screen_time"] = 4;
  d["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 10}, {"at", 2.6}, {"for", 0.3}}}};
  d["shots"][0]["tracks"] = {
      {{"target", "turntable"}, {"profile", "minimum-jerk"}, {"keys", {{0, -80}, {4, 60}}}}};
  const Solved solved = solved_for(d, "peak", {"light=key"});
  ASSERT_EQ(solved.list.size(), 2u) << solved.impossible;
  for (const SolveAnswer& one : solved.list) {
    const Project p = ProjectReader().read(one.after);
    const Shot& shot = *p.shots[0];
    double best = -1, brightest = -1, nearest = 1e9, faces = -1;
    for (int k = 0; k <= 4000; ++k) {
      const double t = k / 1000.0;
      const Light light = light_at(p.setups[0]->lights[0], shot, t);
      const double gives = light.dimmer * std::max(0.0, dot(unit(Vec3{light.place.x, 0, light.place.z}),
                                                            turned(Vec3{0, 0, 1}, 10)));
      if (gives > best) best = gives, brightest = t;
      const double off = std::abs(std::remainder(label_at(one.after, t) - 10, 360.0));
      if (off < nearest) nearest = off, faces = t;
    }
    EXPECT_NEAR(brightest, faces, 0.1) << one.title;
    EXPECT_EQ(judging::level_of(one.after.to_json(), "motion.peak")->state, State::level) << one.title;
  }
  EXPECT_NE(refused(d, "peak", {"light=sun"}).find("none of this set-up"), std::string::npos);
  d["shots"][0].erase("needs");
  EXPECT_NE(refused(d, "peak").find("asks for no facing"), std::string::npos);
}

// Own behaviour, worked by hand.
TEST(SolvedMoves, TurnWholeTurnsWithinWhatTheTableDoes) {
  Json d = set_up();
  d["kit"]["supports"] = {{{"id", "table"},
                           {"name", "Table"},
                           {"kind", "turntable"},
                           {"rpm_low", 1},
                           {"rpm_high", 20},
                           {"owned", true}}};
  d["shots"][0]["products"][0]["on"] = "table";
  d["shots"][0]["screen_time"] = 6;
  const Solved spins =
      solved_for(d, "spin", {"turns=1"});  // 10 rpm in the mean, 17.5 at the fastest of the s-curve
  ASSERT_EQ(spins.list.size(), 3u) << spins.impossible;
  for (const SolveAnswer& one : spins.list) {
    const Project p = ProjectReader().read(one.after);
    EXPECT_NEAR(p.shots[0]->track("turntable")->at(6), 360, 1e-6) << one.title;
  }
  const Solved fast = solved_for(d, "spin", {"turns=3"});
  EXPECT_TRUE(fast.list.empty());
  EXPECT_NE(fast.impossible.find("30 / 20 rpm"), std::string::npos) << fast.impossible;
  // Half a metre off the axis a turn in 0.8 s slides off: w^2 e / (mu g) is 10.
  Json thrown_off = d;
  thrown_off["kit"]["supports"][0]["rpm_high"] = 500;
  thrown_off["shots"][0]["products"][0]["place"] = {0.3, 0, -0.4};
  thrown_off["shots"][0]["screen_time"] = 0.8;
  const Solved slips = solved_for(thrown_off, "spin", {"turns=1"});
  EXPECT_TRUE(slips.list.empty());
  EXPECT_NE(slips.impossible.find("slip on the turntable"), std::string::npos) << slips.impossible;
  // Nearly a turn becomes one.
  d["shots"][0]["tracks"] = {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 5}, {6, 340}}}}};
  const Solved loops = solved_for(d, "loop");
  ASSERT_FALSE(loops.list.empty()) << loops.impossible;
  for (const SolveAnswer& one : loops.list) {
    const Project p = ProjectReader().read(one.after);
    EXPECT_NEAR(p.shots[0]->track("turntable")->at(6) - p.shots[0]->track("turntable")->at(0), 360, 1e-5);
  }
  // What does not come back stands against a loop.
  d["shots"][0]["tracks"].push_back({{"target", "camera.pan"}, {"keys", {{0, 0}, {6, 3}}}});
  EXPECT_NE(solved_for(d, "loop").impossible.find("camera.pan"), std::string::npos);
  // 6 s at 25 in twos: 75 pictures, 4.8 degrees between, 37.5 minutes.
  const Solved still = solved_for(d, "stop-motion");
  ASSERT_EQ(still.list.size(), 1u) << still.impossible;
  EXPECT_NE(still.list[0].title.find("75 pictures, 4.8 degrees between, 37.5 minutes"), std::string::npos)
      << still.list[0].title;
}

// Own behaviour: in the same place of the frame and as large, measured here, where the other product is twice as
// tall and stands elsewhere.
TEST(SolvedMoves, MatchAnotherShotsLastFrame) {
  Json d = set_up();
  Json big = d["products"][0];
  big["id"] = "big";
  for (Json& point : big["parts"][0]["profile"])
    for (Json& number : point) number = number.get<double>() * 2;
  d["products"].push_back(big);
  Json other = d["shots"][0];
  other["id"] = "other", other["products"][0]["product"] = "big", other["products"][0]["place"] = {-0.2, 0, -0.1};
  other["camera"]["place"] = {0.3, 0.5, 1.4}, other["camera"]["aim"] = {-0.1, 0.1, 0};
  other["camera"]["roll_deg"] = 8;
  other["tracks"] = {{{"target", "camera.pan"}, {"keys", {{0, 0}, {1, 3}}}}};
  d["shots"].push_back(other);
  const Solved solved = solved_for(d, "match", {"with=2"});
  ASSERT_EQ(solved.list.size(), 1u) << solved.impossible;
  const Project p = ProjectReader().read(solved.list[0].after);
  const auto seen = [](const Project& in, std::size_t shot, double t, double up) {
    const Shot& s = *in.shots[shot];
    const auto [low, high] = height_span(*by_id(in.products, s.products[0].product));
    const auto at =
        image_of(camera_at(s, t), product_at(in, s, s.products[0], t).world({0, low + up * (high - low), 0}));
    return std::pair{at->x / 0.036, at->y / 0.036};
  };
  for (const double up : {0.0, 0.5, 1.0}) {
    EXPECT_NEAR(seen(p, 0, 0, up).first, seen(p, 1, p.shots[1]->set_time(), up).first, 0.004) << up;
    EXPECT_NEAR(seen(p, 0, 0, up).second, seen(p, 1, p.shots[1]->set_time(), up).second, 0.004) << up;
  }
  EXPECT_NE(refused(d, "match", {"with=1"}).find("no other shot"), std::string::npos);
  // What shows last of a shot that plays backward is what was recorded first; its own moves are not worked out.
  d["shots"][1]["reversed"] = true;
  const Solved back = solved_for(d, "match", {"with=2"});
  ASSERT_EQ(back.list.size(), 1u) << back.impossible;
  const Project then = ProjectReader().read(back.list[0].after);
  for (const double up : {0.0, 0.5, 1.0}) {
    EXPECT_NEAR(seen(then, 0, 0, up).first, seen(then, 1, 0, up).first, 0.004) << up;
    EXPECT_NEAR(seen(then, 0, 0, up).second, seen(then, 1, 0, up).second, 0.004) << up;
  }
  d["shots"][0]["reversed"] = true;
  EXPECT_NE(refused(d, "push", {"to=60"}).find("backward"), std::string::npos);
}

// Own behaviour: words say what is missing, and hostile numbers are refused.
TEST(SolvedMoves, RefuseWhatTheyCannotMean) {
  const Json d = set_up();
  EXPECT_NE(refused(d, "waltz").find("facing, peak"), std::string::npos);
  EXPECT_NE(refused(d, "push", {"to"}).find("key=value"), std::string::npos);
  for (const char* bad : {"to=nan", "to=-3", "to=1e9", "to=", "size=3"})
    EXPECT_NE(refused(d, "push", {bad}), "") << bad;
  EXPECT_NE(refused(d, "match").find("missing"), std::string::npos);
  EXPECT_NE(refused(d, "rack").find("to=0.9"), std::string::npos);
  EXPECT_NE(refused(d, "rack", {"to=0.02"}).find("nearer than the lens focuses"), std::string::npos);
  EXPECT_NE(refused(d, "centred").find("does not travel"), std::string::npos);
  EXPECT_NE(refused(d, "loop").find("no turntable"), std::string::npos);
  EXPECT_NE(refused(d, "facing", {"at=50"}).find("after the shot's end"), std::string::npos);
  Json bare = d;
  bare["shots"][0]["products"] = Json::array();
  for (const char* kind : {"facing", "orbit", "boom", "push"}) EXPECT_NE(refused(bare, kind), "") << kind;
  bare["shots"][0].erase("camera");
  EXPECT_NE(refused(bare, "spin").find("no camera"), std::string::npos);
}

}  // namespace
}  // namespace cinnabar
