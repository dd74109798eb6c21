// What air throws about: puffs of powder, liquid torn out of a neck, and throws of liquid; against conserved push,
// mass and volume, and what is printed of jets.
#include <gtest/gtest.h>

#include <cmath>

#include "asked_kinds.h"
#include "cinnabar/effects/air.h"
#include "cinnabar/effects/puff.h"

namespace cinnabar {
namespace {

/// Volume of the balls that an outcome shows at a moment.
double balls_at(const EffectOutcome& out, double t) {
  double sum = 0;
  for (const EffectBody& body : out.bodies)
    sum += static_cast<double>(body.at(t, t).size()) * 4.0 / 3.0 * pi * std::pow(body.half.x, 3);
  return sum;
}

// Source: a puff without weight keeps its push: with 1.5 of its air, (2 pi rho) b^3 db/dt = a M, so b^4 grows
// evenly with time (Richards 1965, value from memory); here a share of a quarter of the way. Without air to speak
// of grains fall freely.
TEST(Puffs, KeepTheirPush) {
  const double rho = 1.204;
  const PuffStart light{{0, 100, 0}, {2, 0, 0}, 1e-9, 0.05, 1e-6, 0.0};
  const Puff puff(light);
  const double push = 1.5 * rho * 4.0 / 3.0 * pi * std::pow(0.05, 3) * 2.0;
  for (const double t : {0.1, 0.5, 2.0, 8.0}) {
    const double b4 = std::pow(0.05, 4) + 4.0 * 0.25 * push * t / (1.5 * rho * 4.0 / 3.0 * pi);
    EXPECT_NEAR(puff.at(t).radius, std::pow(b4, 0.25), 2e-3 * std::pow(b4, 0.25)) << t;
    EXPECT_NEAR(puff.at(t).middle.x, (puff.at(t).radius - 0.05) / 0.25, 1e-3) << t;
  }
  const Puff heavy(PuffStart{{0, 10, 0}, {1, 3, 0}, 1000.0, 0.02, 1.0, 0.0});
  for (const double t : {0.1, 0.3}) {
    EXPECT_NEAR(heavy.at(t).middle.x, t, 2e-3);
    EXPECT_NEAR(heavy.at(t).middle.y, 10 + 3 * t - standard_gravity * t * t / 2, 5e-3);
  }
  EXPECT_NEAR(heavy.highest_at(), 3 / standard_gravity, 0.01);
}

// Source: Hinds 1999 (value from memory): a grain of 20 um and 1000 kg/m3 falls at 12 mm/s by Stokes' law. The
// balance of mass: extinction over all of the air is 3 m / (rho d), whatever eddies do, above a ground as in the
// open.
TEST(Powder, HangsInTheAirWithAllOfItsMass) {
  const Measures given{
      {"mass", {0.02}}, {"diameter", {2e-5}}, {"density", {1000}}, {"speed", {3}}, {"angle_deg", {70}}};
  for (const double high : {0.05, 2.0}) {
    const auto out = of("powder", given, {0.4, high, -0.3});
    ASSERT_TRUE(out) << out.error().text();
    EXPECT_NEAR(*out->number("fall_speed"), 0.012, 0.0005);
    for (const double t : {1.05, 1.6}) {
      const auto cloud = out->cloud(t);
      ASSERT_TRUE(cloud);
      const Cloud::Bounds b = cloud->bounds();
      EXPECT_GE(b.low.y, 0.0);
      constexpr int n = 60;
      const Vec3 side = (b.high - b.low) / n;
      double sum = 0;
      for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j)
          for (int k = 0; k < n; ++k)
            sum += cloud->at(b.low + Vec3{(i + 0.5) * side.x, (j + 0.5) * side.y, (k + 0.5) * side.z});
      const double all = 3.0 * 0.02 / (1000 * 2e-5);
      EXPECT_NEAR(sum * side.x * side.y * side.z, all, 0.02 * all) << high << " " << t;
      EXPECT_EQ(cloud->at({0.4, -0.01, -0.3}), 0.0);
    }
    EXPECT_FALSE(out->cloud(0.99)) << "before it is let go";
    EXPECT_FALSE(out->cloud(1.0 + 40.0 * *out->life)) << "gone";
    EXPECT_EQ(out->perils, std::vector<Peril>{Peril::powder});
  }
  EXPECT_EQ(of("powder", given, {0, -0.1, 0}).error().place, "place");
}

// Own behaviour: what is thrown higher hangs longer and wider; more air changes end it sooner; any numbers of its
// ranges end in an answer or a clear word.
TEST(Powder, AnswersToItsMeasures) {
  const auto life = [](Measures given) {
    given.try_emplace("diameter", std::vector{1e-5});
    return *of("powder", given, {0, 1, 0})->life;
  };
  EXPECT_GT(life({{"mass", {0.05}}}), life({{"mass", {0.005}}}));
  EXPECT_GT(life({}), 1.2 * life({{"air_changes", {60}}}));
  EXPECT_GT(life({}), life({{"diameter", {2e-4}}}));
  for (const EffectMeasure& m : effect_kind("powder")->measures)
    for (const double end : {m.range.low, m.range.high}) {
      const auto out = of("powder", {{m.key, {end}}}, {0, 0.5, 0});
      if (out)
        for (const EffectNumber& n : out->numbers) EXPECT_TRUE(std::isfinite(n.value)) << m.key << " " << n.name;
      else
        EXPECT_FALSE(out.error().message.empty());
    }
}

/// A bottle of 75 mm across and a neck of 20 mm.
EffectPlace bottle(double level) {
  EffectPlace about;
  about.vessels.push_back({0, {0.2, 0, 0.1}, {{0.036, 0.003}, {0.036, 0.15}, {0.01, 0.18}, {0.01, 0.2}}, level});
  return about;
}

// Source: a shallow dent's weight is the jet's own pressure there, rho u^2 / 2 over rho g (Bernoulli), with the
// round jet's 6.2 u d / x (Rajaratnam 1976, value from memory); a blowing number of 1 is where drops begin
// (Subagyo et al. 2003, value from memory).
TEST(Blown, DentsByTheJetsPressureAndTearsOffDrops) {
  const Measures soft{{"speed", {4.0}}};
  const auto dents = of("blow", soft, {0.2, 0.27, 0.1}, bottle(0.17));
  ASSERT_TRUE(dents) << dents.error().text();
  const double centre = 6.2 * 4.0 * 0.002 / 0.1;
  EXPECT_NEAR(*dents->number("centre_speed"), centre, 1e-3);
  EXPECT_NEAR(*dents->number("dent"), 1.204 * centre * centre / (2 * 998 * standard_gravity),
              2e-2 * *dents->number("dent"));
  EXPECT_EQ(*dents->number("thrown"), 0.0);
  EXPECT_TRUE(dents->bodies.empty());
  ASSERT_FALSE(dents->notes.empty());
  const auto sprays = of("blow", {{"speed", {100}}}, {0.2, 0.21, 0.1}, bottle(0.19));
  ASSERT_TRUE(sprays) << sprays.error().text();
  EXPECT_GT(*sprays->number("blowing_number"), 1.0);
  EXPECT_GT(*sprays->number("thrown"), 0.0);
  EXPECT_FALSE(sprays->bodies.empty());
  EXPECT_NE(std::ranges::find(sprays->perils, Peril::propellant), sprays->perils.end());
  double last = 0;
  for (const EffectEvent& event : sprays->events) {
    EXPECT_GE(event.at, last) << event.name;
    last = event.at;
  }
  const auto deep = of("blow", {{"speed", {100}}}, {0.2, 0.21, 0.1}, bottle(0.03));
  ASSERT_TRUE(deep);
  EXPECT_EQ(*deep->number("thrown"), 0.0) << "too far down to come out";
}

// Own behaviour: what cannot be says which measure and how it is mended.
TEST(Blown, SaysWhatStandsAgainstIt) {
  EXPECT_EQ(of("blow", {}, {1, 0.3, 0}, bottle(0.1)).error().place, "place");
  EXPECT_EQ(of("blow", {}, {0.2, 0.05, 0.1}, bottle(0.1)).error().place, "place");
  EXPECT_EQ(of("blow", {}, {0.2, 0.3, 0.1}, bottle(0.0)).error().place, "place");
  EXPECT_EQ(of("blow", {{"nozzle_diameter", {0.03}}}, {0.2, 0.3, 0.1}, bottle(0.1)).error().place,
            "nozzle_diameter");
}

// Source: the balance of volume: all that was in the glass is in the air once the last of it has left, and lies
// then.
TEST(ThrownLiquid, IsAllThere) {
  for (const double volume : {2e-5, 2e-4}) {
    const auto out = of("throw", {{"volume", {volume}}, {"diameter", {0.06}}, {"speed", {2.5}}}, {0.3, 0.9, 0.2});
    ASSERT_TRUE(out) << out.error().text();
    EXPECT_NEAR(balls_at(*out, 1.2), volume, 1e-9);
    EXPECT_NEAR(balls_at(*out, 9.0), volume, 1e-9);
    EXPECT_EQ(balls_at(*out, 0.9), 0.0) << "in its glass until it is thrown";
    EXPECT_GT(*out->number("wet_within"), 0.2);
    for (const EffectBody& body : out->bodies)
      for (const EffectShape& drop : body.at(9.0, 9.0)) EXPECT_NEAR(drop.place.y, body.half.x, 1e-6);
  }
}

// Own behaviour: several throws are drawn one by one and shown together; a recording of each, and one clean.
TEST(Throws, AreLaidOverOneAnother) {
  const Measures given{{"pieces", {5}}, {"throws", {3}}};
  const auto all = of("pieces", given, {0, 0.4, 0});
  ASSERT_TRUE(all) << all.error().text();
  std::vector<Vec3> places;
  for (const EffectBody& body : all->bodies)
    for (const EffectShape& piece : body.at(1.1, 1.1)) places.push_back(piece.place);
  ASSERT_EQ(places.size(), 15u);
  for (std::size_t i = 0; i < places.size(); ++i)
    for (std::size_t k = 0; k < i; ++k) EXPECT_GT(length(places[i] - places[k]), 1e-6);
  EXPECT_EQ(all->plates.size(), 4u);
  const auto one = of("pieces", {{"pieces", {5}}}, {0, 0.4, 0});
  EXPECT_LE(all->event("lands")->at, one->event("lands")->at);
  EXPECT_GE(all->event("settles")->at, one->event("settles")->at);
  EXPECT_TRUE(one->plates.empty());
}

}  // namespace
}  // namespace cinnabar
