// Effects solved for a moment, a crown, a whole stream: held against free fall and volume by sums of their own,
// off the origin, in ramped time and from above a vessel.
#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/forecast/solvers/solvers.h"
#include "cinnabar/scene/effects_staged.h"
#include "judging.h"
#include "odd_setups.h"

namespace cinnabar {
using namespace judging;
namespace effect_solving {

Json with(const Json& effect, const Json& play = nullptr) {
  Json doc = worlds::bare();
  doc["products"].push_back({{"id", "glass"},
                             {"mass", 0.3},
                             {"parts",
                              {{{"id", "body"},
                                {"profile", {{0.0, 0.0}, {0.05, 0.0}, {0.05, 0.15}}},
                                {"wall", 0.002},
                                {"material", {{"kind", "glass"}, {"ior", 1.52}}}},
                               {{"id", "drink"},
                                {"profile", {{0.0, 0.002}, {0.048, 0.002}, {0.048, 0.1}, {0.0, 0.1}}},
                                {"material", {{"kind", "liquid"}, {"ior", 1.333}}}}}}});
  doc["shots"][0]["products"].push_back({{"product", "glass"}, {"place", {0.3, 0, -0.2}}, {"turn_deg", 30}});
  doc["shots"][0]["effects"] = Json::array({effect});
  if (!play.is_null()) doc["shots"][0]["play"] = play;
  return doc;
}
Expected<Solved> solved(const Json& doc, const std::string& kind, const std::vector<std::string>& words = {}) {
  static const Forecaster forecaster;
  const auto request = read_solve(kind, words);
  if (!request) return tl::unexpected(request.error());
  return solve(forecaster, *Document::from_json(doc), 0, *request);
}
Json after(const Expected<Solved>& answers, std::size_t k = 0) {
  EXPECT_TRUE(answers) << answers.error().text();
  if (!answers || answers->list.size() <= k) {
    ADD_FAILURE() << (answers ? answers->impossible : std::string());
    return Json();
  }
  EXPECT_TRUE(validate(answers->list[k].after).empty());
  return answers->list[k].after.to_json()["shots"][0]["effects"][0];
}
const Json berry{{"id", "b"},    {"kind", "throw"}, {"at", 0.4},        {"place", {1, 0.31, 1}},
                 {"speed", 0.0}, {"angle_deg", 0},  {"diameter", 0.02}, {"restitution", 0.0}};
const double falls = std::sqrt(2 * 0.3 / standard_gravity);

// Source: free fall, h = g t^2 / 2.
TEST(SolvedEffects, AreLetGoInTime) {
  const Json plain = after(solved(with(berry), "release", {"at=1.2"}));
  EXPECT_NEAR(plain["at"].get<double>(), 1.2 - falls, 2e-5);
  EXPECT_EQ(plain["needs"], (Json{{"event", "lands"}, {"screen", 1.2}})) << "it is wanted then from now on";
  // At full speed to 0.5 s, then a quarter: 1.2 s on screen are 0.5 + 0.7 / 4 s on the set.
  const Json ramped = after(solved(with(berry, {{0.0, 1.0}, {0.4999, 1.0}, {0.5, 0.25}}), "release", {"at=1.2"}));
  EXPECT_NEAR(ramped["at"].get<double>(), 0.5 + 0.7 * 0.25 - falls, 3e-4);
  const auto early = solved(with(berry), "release", {"at=0.1"});
  ASSERT_TRUE(early);
  EXPECT_TRUE(early->list.empty());
  EXPECT_NE(early->impossible.find("before the shot begins"), std::string::npos);
}

// Source: free fall; Engel 1966, Pumphrey & Elmore 1990 (value from memory): R^4 = 2 s m v^2 / (pi rho g), crown
// 0.75 R.
TEST(SolvedEffects, FallFromTheHeightThatIsWanted) {
  const Json high = after(solved(with(berry), "height", {"at=0.75"}));
  EXPECT_NEAR(high["place"][1].get<double>(), 0.01 + standard_gravity * 0.35 * 0.35 / 2, 2e-4);
  EXPECT_EQ(high["place"][0], 1) << "only its height is changed";
  const Json in{{"id", "s"},        {"kind", "splash"}, {"at", 0.2},           {"place", {0.3, 0.3, -0.2}},
                {"diameter", 0.02}, {"mass", 0.008},    {"energy_share", 0.3}, {"density", 1000}};
  const Json splash = after(solved(with(in), "height", {"crown=0.015"}));
  const double drop = splash["place"][1].get<double>() - 0.1 - 0.01, v2 = 2 * standard_gravity * drop;
  EXPECT_NEAR(0.75 * std::pow(2 * 0.3 * 0.008 * v2 / (pi * 1000 * standard_gravity), 0.25), 0.015, 2e-4);
  const auto none = solved(with(in), "height", {"crown=0.9"});
  ASSERT_TRUE(none);
  EXPECT_TRUE(none->list.empty());
  EXPECT_FALSE(none->impossible.empty());
}

const Json pour{{"id", "p"},         {"kind", "pour"}, {"at", 0.1},      {"place", {0.24, 0.25, -0.2}},
                {"liquid", "water"}, {"width", 0.03},  {"volume", 2e-5}, {"flow", 5e-5},
                {"bearing_deg", 90}};

// Source: the balance of volume: so much is poured by the moment asked.
TEST(SolvedEffects, PourAsMuchASecondAsIsWanted) {
  const Json flow = after(solved(with(pour), "flow", {"event=closes", "at=0.9"}));
  EXPECT_NEAR(flow["flow"].get<double>(), 2e-5 / 0.8, 0.02 * 2e-5 / 0.8);
  EXPECT_NE(solved(with(berry), "flow", {"at=1"}).error().message.find("asked of a pour"), std::string::npos);
}

// Only own behaviour is held here: a stream asked to stay whole does, and just so.
TEST(SolvedEffects, StayWholeUntilTheyLand) {
  Json high = pour;
  high["place"] = {1.0, 2.0, 1.0}, high["flow"] = 2e-5;  // beside the glass, where it breaks up
  const auto answers = solved(with(high), "height", {"whole=1"});
  const Json lower = after(answers);
  EXPECT_LT(lower["place"][1].get<double>(), 2.0);
  const Project then = worlds::read(answers->list[0].after.to_json());
  const auto outcome = outcome_of(then, *then.shots[0], then.shots[0]->effects[0]);
  ASSERT_TRUE(outcome);
  EXPECT_FALSE(outcome->event("breaks"));
}

// Only own behaviour is held here.
TEST(SolvedEffects, SayWhatIsMissing) {
  Json two = with(berry);
  two["shots"][0]["effects"].push_back(pour);
  EXPECT_NE(solved(two, "release").error().mend.find("b, p"), std::string::npos);
  EXPECT_NE(solved(two, "release", {"effect=x"}).error().mend.find("b, p"), std::string::npos);
  EXPECT_NE(solved(two, "release", {"effect=b", "event=full"}).error().mend.find("lands"), std::string::npos);
  EXPECT_NE(solved(two, "height", {"effect=b", "crown=0.02"}).error().place.find("crown"), std::string::npos);
  EXPECT_TRUE(solved(two, "release", {"effect=p", "at=1"}));
  Json none = with(berry);
  none["shots"][0]["effects"] = Json::array();
  EXPECT_NE(solved(none, "release").error().message.find("no effects"), std::string::npos);
  Json under = with(berry);
  under["shots"][0]["effects"][0]["place"] = {0, -2, 0};
  EXPECT_NE(solved(under, "release").error().place.find("b/place"), std::string::npos);
}

/// A shot drawn from a seed, with an effect in it at a place, height and second of its own.
class OddEffects : public testing::TestWithParam<odd_setups::Odd> {
 protected:
  OddEffects() : random_(static_cast<unsigned>(std::stoul(std::string(GetParam().name).substr(5)))) {
    doc_ = odd_setups::set_up();
    GetParam().change(doc_);
    doc_["shots"][0]["screen_time"] = 5.0;
    glass_ = with(berry)["products"].back();
  }
  double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(random_); }
  Json& effect(const Json& given) {
    return doc_["shots"][0]["effects"] = Json::array({given}), doc_["shots"][0]["effects"][0];
  }
  [[nodiscard]] PlayClock clock() const { return worlds::read(doc_).shots[0]->clock; }
  std::mt19937 random_;
  Json doc_, glass_;
};

// Source: free fall. Let go when and from where the answer says, it lands at the second asked, by the shot's own
// play.
TEST_P(OddEffects, LandWhenTheyAreWanted) {
  Json& fall = effect(berry);
  const double high = between(0.05, 1.8);
  fall["place"] = {1.5 + between(0, 0.5), high + 0.01, between(-1, 1)};
  fall["at"] = between(0.0, 0.3);
  const double at = between(0.5, 4.8), set = clock().set_at(at);
  const auto when = solved(doc_, "release", {"at=" + std::to_string(at)});
  ASSERT_TRUE(when) << when.error().text();
  if (when->list.empty()) {
    EXPECT_LT(set, std::sqrt(2 * high / standard_gravity)) << when->impossible;
  } else {
    EXPECT_NEAR(after(when)["at"].get<double>() + std::sqrt(2 * high / standard_gravity), set, 1e-3);
  }
  const auto from = solved(doc_, "height", {"at=" + std::to_string(at)});
  ASSERT_TRUE(from) << from.error().text();
  EXPECT_TRUE(from->list.size() || !from->impossible.empty());
  if (from->list.empty()) return;
  const Json higher = after(from);
  const double falls_for = set - fall["at"].get<double>();
  EXPECT_NEAR(higher["place"][1].get<double>(), 0.01 + standard_gravity * falls_for * falls_for / 2,
              0.01 * falls_for * falls_for + 1e-3);
}

// Source: free fall and the thin lens: it lands at sqrt(2 g h), and goes that fast for as long as the shutter is
// open, at the image's scale where it lands.
TEST_P(OddEffects, SmearNoMoreThanIsAllowed) {
  Json& fall = effect(berry);
  const Json stands = doc_["shots"][0]["products"][0]["place"];
  fall["place"] = {stands[0].get<double>() + 0.2, 0.5, stands[2]};
  const double allowed = between(5.0, 60.0);
  const auto answers = solved(doc_, "height", {"smear=" + std::to_string(allowed)});
  ASSERT_TRUE(answers) << answers.error().text();
  EXPECT_TRUE(answers->list.size() || !answers->impossible.empty());
  for (const SolveAnswer& one : answers->list) {
    const Project p = ProjectReader().read(one.after);
    const Shot& shot = *p.shots[0];
    const double high = shot.effects[0].place.y - 0.01,
                 lands = fall["at"].get<double>() + std::sqrt(2 * high / standard_gravity);
    const CameraPose pose = camera_at(shot, lands);
    const Vec3 low{shot.effects[0].place.x, 0.01, shot.effects[0].place.z};
    const auto a = image_of(pose, low),
               b = image_of(pose,
                            low - Vec3{0, std::sqrt(2 * standard_gravity * high) * shot.camera->shutter_time, 0});
    ASSERT_TRUE(a && b);
    const double px = std::hypot(a->x - b->x, a->y - b->y) / shot_optics(p, shot).pitch;
    EXPECT_LE(px, allowed * 1.001) << one.title;
    EXPECT_GT(px, 0.9 * allowed) << one.title;
  }
}

// Source: the balance of volume; Engel 1966, Pumphrey & Elmore 1990 (value from memory) of the crown.
TEST_P(OddEffects, FlowAndSplashAsAsked) {
  doc_["products"].push_back(glass_);
  const Json stands{1.2 + between(0, 0.5), 0, between(-1, 1)};
  doc_["shots"][0]["products"].push_back({{"product", "glass"}, {"place", stands}});
  Json& stream = effect(pour);
  stream["place"] = {stands[0].get<double>() - 0.06, 0.25, stands[2]};
  stream["at"] = between(0.0, 0.2), stream["volume"] = between(5e-6, 4e-5);
  const double at = between(1.0, 4.5), set = clock().set_at(at);
  const auto flow = solved(doc_, "flow", {"event=closes", "at=" + std::to_string(at)});
  ASSERT_TRUE(flow) << flow.error().text();
  if (flow->list.empty()) {
    EXPECT_FALSE(flow->impossible.empty());
  } else {
    const double pours_for = set - stream["at"].get<double>(), wanted = stream["volume"].get<double>() / pours_for;
    EXPECT_NEAR(after(flow)["flow"].get<double>(), wanted, 0.03 * wanted);
  }
  const double mass = between(0.002, 0.05), size = between(0.01, 0.03);
  effect({{"id", "s"},
          {"kind", "splash"},
          {"at", 0.1},
          {"place", {stands[0], 0.4, stands[2]}},
          {"diameter", size},
          {"mass", mass},
          {"energy_share", 0.3},
          {"density", 1000}});
  const double crown = between(0.008, 0.03);
  const auto splash = solved(doc_, "height", {"crown=" + std::to_string(crown)});
  ASSERT_TRUE(splash) << splash.error().text();
  EXPECT_TRUE(splash->list.size() || !splash->impossible.empty());
  if (splash->list.empty()) return;
  const double drop = after(splash)["place"][1].get<double>() - 0.1 - size / 2, v2 = 2 * standard_gravity * drop;
  EXPECT_NEAR(0.75 * std::pow(2 * 0.3 * mass * v2 / (pi * 1000 * standard_gravity), 0.25), crown, 0.02 * crown);
}
// Own behaviour: powder, a duster, thrown liquids and things, throws laid together and layers are worked out in
// any shot, seen from anywhere, at any second, and staged with places that are numbers; thrown things have landed
// on something.
TEST_P(OddEffects, OfEveryNewKindAreStaged) {
  doc_["products"].push_back(glass_);
  const Json stands{1.2 + between(0, 0.5), 0, between(-1, 1)};
  doc_["shots"][0]["products"].push_back({{"product", "glass"}, {"place", stands}});
  const Json over{stands[0], 0.2, stands[2]}, aside{between(-0.5, 0.5), between(0.3, 1.2), between(-0.5, 0.5)};
  const double bearing = between(-180, 180);
  Json effects = Json::array(
      {{{"id", "a"}, {"kind", "powder"}, {"place", aside}, {"bearing_deg", bearing}},
       {{"id", "b"}, {"kind", "blow"}, {"place", over}},
       {{"id", "c"}, {"kind", "throw"}, {"place", aside}, {"bearing_deg", bearing}, {"volume", 1e-4}},
       {{"id", "d"}, {"kind", "throw"}, {"place", aside}, {"bearing_deg", bearing}, {"product", "glass"}},
       {{"id", "e"},
        {"kind", "pieces"},
        {"place", aside},
        {"pieces", 3},
        {"throws", 3},
        {"product", "can"},
        {"height_spread", 0.0}},
       {{"id", "f"}, {"kind", "layers"}, {"place", aside}, {"heights", {0.2, 0.4}}, {"stiffness", 800}}});
  for (Json& one : effects) one["at"] = between(0.0, 0.5);
  doc_["shots"][0]["effects"] = effects;
  ASSERT_TRUE(validate(*Document::from_json(doc_)).empty());
  const Project project = worlds::read(doc_);
  const Shot& shot = *project.shots[0];
  for (const ToldEffect& told : told_effects(project, shot)) {
    EXPECT_TRUE(told.outcome) << told.effect->id << ": " << (told.outcome ? "" : told.outcome.error().text());
    if (!told.outcome) continue;
    for (const EffectBody& body : told.outcome->bodies)
      for (const EffectShape& shape : body.at(9.0, 9.0))
        EXPECT_GT(shape.place.y, -0.01) << told.effect->id << " lies on something";
  }
  for (const double t : {0.0, between(0.5, 1.5), shot.set_time()})
    for (const Mesh& mesh : stage(project, shot, t).meshes)
      for (const auto& step : mesh.positions)
        for (const Vec3f& p : step) ASSERT_TRUE(std::isfinite(p.x + p.y + p.z));
}

INSTANTIATE_TEST_SUITE_P(Seeds, OddEffects, testing::ValuesIn(odd_setups::scattered(odd_setups::seeds(4))),
                         [](const auto& odd) { return odd.param.name; });

}  // namespace effect_solving
}  // namespace cinnabar
