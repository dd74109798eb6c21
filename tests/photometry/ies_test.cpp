// Measured lights. The file with three planes, its readings and its lumens are worked by hand from IES LM-63-2002
// and the zonal method (IES Lighting Handbook, 10th ed., section 10); Lambert's cosine and uniform light are
// closed forms.
#include "cinnabar/photometry/ies.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "cinnabar/base/vec.h"

namespace cinnabar {
namespace {

const std::string own = R"(IESNA:LM-63-2002
[TEST] OWN
TILT=NONE
1 -1 2 5 3 1 2 0.3 0.3 0
1 1 60
0 22.5 45 67.5 90
0 45 90
100 90 70 40 0
100 95 75 42 2
100 99 80 44 5
)";

LightDistribution read(const std::string& text) {
  const auto d = read_ies(text, "lamp.ies");
  EXPECT_TRUE(d.has_value()) << (d ? "" : d.error().text());
  return d.value_or(LightDistribution{});
}
std::string refused(const std::string& text) {
  const auto d = read_ies(text, "lamp.ies");
  return d ? "read" : d.error().text();
}
std::string with(const std::string& from, const std::string& to) {
  std::string text = own;
  text.replace(text.find(from), from.size(), to);
  return text;
}
std::string file_of(const std::vector<double>& v, const std::vector<double>& h,
                    const std::vector<double>& candela) {
  std::string text =
      "TILT=NONE\n1 -1 1 " + std::to_string(v.size()) + " " + std::to_string(h.size()) + " 1 2 0 0 0\n1 1 10\n";
  for (const auto* list : {&v, &h, &candela}) {
    for (const double x : *list) text += std::to_string(x) + " ";
    text += "\n";
  }
  return text;
}

// Source: ANSI/IES LM-63-2002, worked by hand.
TEST(Ies, ReadsBetweenItsAnglesAsWorkedByHand) {
  const LightDistribution d = read(own);
  EXPECT_NEAR(d.candela_at(30, 100), 183.407, 5e-4);
  EXPECT_NEAR(d.candela_at(10, 350), 192.099, 5e-4);
  EXPECT_NEAR(d.candela_at(56.25, 202.5), 113.5, 1e-9);
  EXPECT_NEAR(d.candela_at(90, 270), 10, 1e-9);
  EXPECT_EQ(d.candela_at(95, 0), 0);
  EXPECT_NEAR(d.candela_at(30, -10), d.candela_at(30, 350), 1e-9);
  EXPECT_EQ(d.watts, 60);
  EXPECT_DOUBLE_EQ(d.width, 0.3);
  ASSERT_EQ(d.keywords.size(), 1u);
  EXPECT_EQ(d.keywords[0].first, "TEST");
  EXPECT_EQ(d.version, "IESNA:LM-63-2002");
}

// Source: IES Lighting Handbook, 10th ed., zonal method; Lambert's cosine in closed form.
TEST(Ies, LumensByZonesAndExactly) {
  const LightDistribution d = read(own);
  EXPECT_NEAR(d.zonal_lumens(), 669.24, 5e-3);
  EXPECT_NEAR(d.lumens(), 661.573, 5e-4);
  const LightDistribution half = read(file_of({0, 45, 90}, {0}, {100, 100, 100})),
                          all = read(file_of({0, 90, 180}, {0}, {100, 100, 100}));
  EXPECT_NEAR(half.lumens(), 628.319, 5e-4);
  EXPECT_NEAR(all.lumens(), 1256.64, 5e-3);
  std::vector<double> v, cosine;
  for (int a = 0; a <= 90; a += 10) v.push_back(a), cosine.push_back(a == 90 ? 0 : 100 * std::cos(radians(a)));
  const LightDistribution lambert = read(file_of(v, {0}, cosine));
  EXPECT_NEAR(lambert.zonal_lumens(), 314.159, 2e-3);
  EXPECT_NEAR(lambert.lumens(), 313.359, 5e-4);
}

/// The integral of candela_at, added up in small pieces, is what lumens() says, whatever the symmetry.
// Source: the definition, integral of candela over the sphere, summed here.
TEST(Ies, LumensAreTheIntegralOfTheReadings) {
  std::mt19937 random(63);
  std::uniform_real_distribution<double> candela(0, 1000);
  for (const std::vector<double>& h :
       {std::vector<double>{0}, {0, 30, 90}, {0, 50, 120, 180}, {0, 90, 200, 360}, {90, 140, 270}}) {
    const std::vector<double> v{0, 15, 40, 90, 130, 180};
    std::vector<double> values;
    for (std::size_t i = 0; i < v.size() * h.size(); ++i) values.push_back(candela(random));
    if (h.back() == 360)  // the last plane is the first again
      for (std::size_t i = 0; i < v.size(); ++i) values[values.size() - v.size() + i] = values[i];
    const LightDistribution d = read(file_of(v, h, values));
    double sum = 0;
    constexpr int rows = 720, columns = 360;
    for (int i = 0; i < rows; ++i)
      for (int j = 0; j < columns; ++j) {
        const double a = 180.0 * i / rows, b = 180.0 * (i + 1) / rows;
        sum += d.candela_at((a + b) / 2, 360.0 * (j + 0.5) / columns) * 2 * pi / columns *
               (std::cos(radians(a)) - std::cos(radians(b)));
      }
    EXPECT_NEAR(sum / d.lumens(), 1.0, 2e-4) << h.back();
    for (const double angle : {10.0, 100.0, 190.0, 280.0}) {  // each plane's mirror image reads the same
      const double mirrored = h.back() == 360 || h.back() == 0 ? angle
                              : h.back() == 180                ? 360 - angle
                                                               : 180 - angle;
      EXPECT_NEAR(d.candela_at(60, angle), d.candela_at(60, mirrored), 1e-9);
    }
  }
}

// Source: ANSI/IES LM-63-2002.
TEST(Ies, OlderFilesFeetFactorsAndTilt) {
  const LightDistribution d = read(
      "A lamp of 1986\nno keywords yet\nTILT=INCLUDE\n1\n3\n0 45 90\n1.0 0.9 0.7\n2 1500 0.5 3 1 1 1 -1 0 0.25\n"
      "0.8 1 42\n0 45 90\n0\n1000,500\n0\n");
  EXPECT_NEAR(d.candela_at(0, 77), 400, 1e-9);  // 1000 x 0.5 x 0.8
  EXPECT_NEAR(d.width, 0.3048, 1e-12);
  EXPECT_NEAR(d.height, 0.0762, 1e-12);
  EXPECT_NEAR(d.tilt_share(67.5), 0.8, 1e-12);
  EXPECT_NEAR(d.tilt_share(200), 0.7, 1e-12);
  EXPECT_EQ(d.keywords.size(), 2u);
  EXPECT_TRUE(d.version.empty());
  const LightDistribution level =
      read("TILT=INCLUDE\n2\n2\n0 90\n1 0.5\n1 -1 1 2 1 1 2 0 0 0\n1 1 1\n0 90\n0\n5 5\n");
  EXPECT_EQ(level.tilt_share(90), 1.0);  // its lamp stays level
  const LightDistribution other = read(
      "[MANUFAC] nobody\n[MORE] at all\nTILT = lamp.tlt\n1 -1 1 2 1 1 2 0 0 0\n1 1 1\n"
      "0 90\n0\n5 5 9 9\n");
  EXPECT_EQ(other.keywords[0].second, "nobody\nat all");
  ASSERT_EQ(other.notes.size(), 3u);  // factors elsewhere, measured as a whole, more than was asked for
  EXPECT_NE(other.notes[0].find("lamp.tlt"), std::string::npos);
}

// Own behaviour.
TEST(Ies, RefusesWithThePlaceAndTheMend) {
  EXPECT_EQ(refused(with(" 1 2 0.3", " 2 2 0.3")).substr(0, 48),
            "lamp.ies line 5: is measured as type B, on anoth");
  EXPECT_NE(refused(with(" 1 2 0.3", " 3 2 0.3")).find("type A"), std::string::npos);
  EXPECT_NE(refused(with(" 1 2 0.3", " 7 2 0.3")).find("photometric type is 7"), std::string::npos);
  EXPECT_NE(refused(with(" 1 2 0.3", " 1 9 0.3")).find("units"), std::string::npos);
  EXPECT_NE(refused(with("0 22.5 45", "0 50 45")).find("vertical angles do not rise"), std::string::npos);
  EXPECT_NE(refused(with("0 45 90\n100", "0 45 70\n100")).find("horizontal angles run"), std::string::npos);
  EXPECT_NE(refused(with("44 5", "44")).find("candela value 15 of 15 is missing"), std::string::npos);
  EXPECT_NE(refused(with("80 44", "80 nan")).find("\"nan\""), std::string::npos);
  EXPECT_NE(refused(with("80 44", "80 -4")).find("is -4"), std::string::npos);
  EXPECT_NE(refused(with("TILT=NONE\n", "")).find("TILT="), std::string::npos);
  EXPECT_NE(refused(with("5 3 1", "1e9 3 1")).find("whole number"), std::string::npos);
  EXPECT_NE(refused(with("5 3 1", "99999 99999 1")).find("a million"), std::string::npos);
  EXPECT_NE(refused("").find("TILT="), std::string::npos);
}

// Own behaviour.
TEST(HostileIes, CutAnywhereOrScrambledItIsReadOrRefused) {
  for (std::size_t n = 0; n + 2 < own.size(); ++n) EXPECT_NE(refused(own.substr(0, n)), "read") << n;
  std::mt19937 random(2002);
  int readable = 0;
  for (int i = 0; i < 4000; ++i) {
    std::string text = own;
    for (int k = 0; k < 3; ++k) text[random() % text.size()] = static_cast<char>(random() % 256);
    if (const auto d = read_ies(text, "x")) {
      ++readable;
      EXPECT_TRUE(std::isfinite(d->lumens()) && d->lumens() >= 0);
      EXPECT_TRUE(std::isfinite(d->candela_at(31, 12345.6)));
    }
  }
  EXPECT_GT(readable, 0);
}

// Source: closed form, cos^m at half and at a tenth.
TEST(Distribution, BeamAndFieldAnglesOfTheCosinePower) {
  const auto beam = cosine_power_beam(5000, 60);
  ASSERT_TRUE(beam.has_value());
  EXPECT_NEAR(beam->candela_at(30, 0), 2500, 2.5);
  EXPECT_NEAR(beam->full_angle(0.5), 60, 0.05);
  EXPECT_NEAR(beam->lumens() / cosine_power_lumens(5000, 60), 1.0, 2e-3);
  EXPECT_NEAR(cosine_power_lumens(1000 / pi, 120), 1000, 1e-6);  // Lambert: flux is pi times the axis
  const auto narrow = cosine_power_beam(1e5, 4);
  EXPECT_NEAR(narrow->lumens() / cosine_power_lumens(1e5, 4), 1.0, 2e-3);
  EXPECT_FALSE(cosine_power_beam(10, 180).has_value());
  EXPECT_FALSE(cosine_power_beam(std::nan(""), 60).has_value());
}

// Source: closed form, lm = 2 pi cd / (m + 1).
TEST(Distribution, OutputFromWhicheverFiguresTheMakerGives) {
  // Lambert: 4 lx at 2 m are 16 cd on the axis, pi times that in lumens. A point source of the same in 60 degrees
  // has less.
  const auto lambert = light_output({.illuminance = 4, .distance = 2});
  ASSERT_TRUE(lambert.has_value());
  EXPECT_NEAR(lambert->lumens, 16 * pi, 1e-9);
  EXPECT_NEAR(lambert->axis_candela, 16, 1e-9);
  EXPECT_EQ(lambert->derivation, "from 4 lx at 2.00 m, spread as a matt face spreads it");
  EXPECT_EQ(lambert->distribution, nullptr);
  const auto beam = light_output({.candela = 16, .beam_deg = 60});
  EXPECT_NEAR(beam->lumens, 2 * pi * 16 / (std::log(0.5) / std::log(std::cos(pi / 6)) + 1), 1e-9);
  EXPECT_NEAR(beam->distribution->candela_at(0, 0), 16, 1e-9);
  const auto given = light_output({.lumens = 1000, .candela = 1, .beam_deg = 120});
  EXPECT_EQ(given->lumens, 1000);
  EXPECT_NEAR(given->axis_candela, 1000 / pi, 1e-6);
  EXPECT_TRUE(given->derivation.empty());
  const auto measured = light_output({.measured = std::make_shared<const LightDistribution>(read(own))});
  EXPECT_NEAR(measured->lumens, 661.573, 5e-4);
  EXPECT_NEAR(measured->axis_candela, 200, 1e-9);
  EXPECT_FALSE(light_output({.illuminance = 5}).has_value());  // lux without a distance says nothing
}

}  // namespace
}  // namespace cinnabar
