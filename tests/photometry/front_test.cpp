// What stands before a lamp: its face against the printed calculations, and that none gives more than it gets.
#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/front.h"
#include "cinnabar/photometry/modifiers.h"

namespace cinnabar {
namespace {

double stops(double a, double b) { return std::log2(a / b); }

/// All that leaves a face over what an even one of the same lumens gives: by places, and by slopes in rings.
double given(const FrontEmission& front, int places, int rings) {
  const FrontFace& face = front.face();
  double sum = 0.0, area = 0.0;
  for (int i = 0; i < places; ++i)
    for (int j = 0; j < places; ++j) {
      const double x = (2 * (i + 0.5) / places - 1) * face.half_width,
                   y = (2 * (j + 0.5) / places - 1) * face.half_height;
      if (face.round && x * x + y * y > face.half_width * face.half_width) continue;
      area += 1.0;
      // Even in the squared sine: the cosine of Lambert's law is in it.
      for (int k = 0; k < rings; ++k)
        for (int m = 0; m < rings; ++m) {
          const double sine2 = (k + 0.5) / rings, slope = std::sqrt(sine2 / (1 - sine2)),
                       turn = 2 * pi * (m + 0.5) / rings;
          sum += front.at(x, y, slope * std::cos(turn), slope * std::sin(turn)) / (rings * double(rings));
        }
    }
  return sum / area;
}

// Source: Lafortune & Willems 1994 (value from memory), as printed for the calculation `diffusion-sheet`.
TEST(Front, AHotSpotFallsOffAsTheCalculationSays) {
  const double half_angle = degrees(std::acos(std::pow(0.5, 1.0 / 8.0)));  // of a lobe cos^8
  const FrontEmission front({.gap = 0.2, .exponent = 1, .forward = 0.7, .lobe_deg = half_angle},
                            {false, 0.4, 0.4});
  EXPECT_NEAR(stops(front.at(0, 0, 0, 0), front.at(0.3, 0, 0, 0)), 6.79468, 1e-5);
  // The lamp's lumens, half of them through the cloth, give the printed 13727.1 cd/m2 in the middle of a cloth
  // that gets all of it: I0 = 1000 cd of cos^1 is pi x 1000 lm.
  const FrontEmission wide({.gap = 0.2, .exponent = 1, .forward = 0.7, .lobe_deg = half_angle}, {true, 200, 200});
  const double even = 0.5 * pi * 1000 / (pi * pi * 200.0 * 200.0);
  EXPECT_NEAR(wide.at(0, 0, 0, 0) * even, 13727.1, 0.5);
}

// Source: configuration factor of parallel rectangles (value from memory), as printed for inner baffles.
TEST(Front, AnInnerClothEvensTheFaceByHowDeepItHangs) {
  for (const auto& [deep, printed] : {std::pair{0.12, 1.8696}, {0.3, 1.41532}}) {
    const FrontEmission front({.baffle = deep}, {false, 0.3, 0.3});
    EXPECT_NEAR(stops(front.at(0, 0, 0, 0), front.at(0.3, 0.3, 0, 0)), printed, 2e-4) << deep;
  }
  // Round, and lit with a hot spot: the nearer the inner cloth, the more of the spot is left.
  const LightFront lit{.gap = 0.1};
  const auto fall = [&](double deep) {
    LightFront one = lit;
    one.baffle = deep;
    const FrontEmission front(one, {true, 0.3, 0.3});
    return stops(front.at(0, 0, 0, 0), front.at(0.25, 0, 0, 0));
  };
  EXPECT_GT(FrontEmission(lit, {true, 0.3, 0.3}).at(0, 0, 0, 0), fall(0.02));
  EXPECT_GT(fall(0.02), fall(0.1) + 0.5);
  EXPECT_GT(fall(0.1), fall(0.4));
}

// Source: Abramowitz & Stegun 11.4.44, as printed for the calculation `bead-ripple`.
TEST(Front, BeadsRippleOnTheirSheetAndShowWithoutOne) {
  for (const auto& [gap, printed] : {std::pair{0.01, 1.18623}, {0.02, 0.0715194}}) {
    const FrontEmission front({.kind = FrontKind::beads, .gap = gap, .exponent = 1, .pitch = 0.02},
                              {false, 0.2, 0.1});
    EXPECT_NEAR(stops(front.at(0, 0, 0, 0), front.at(0.01, 0.01, 0, 0)), printed, 0.01 * printed) << gap;
    EXPECT_NEAR(front.at(0.04, -0.02, 0, 0), front.at(0, 0, 0, 0), 1e-9);
  }
  const FrontEmission bare({.kind = FrontKind::beads, .pitch = 0.01, .bead_radius = 0.0025}, {false, 0.1, 0.1});
  EXPECT_NEAR(bare.at(0, 0, 0, 0), 16 / pi, 1e-9);  // all of a cell's light from a bead's disc
  EXPECT_EQ(bare.at(0.005, 0, 0, 0), 0.0);
}

// Source: luminance is kept (Born & Wolf), as printed for the calculation `fresnel-spot`.
TEST(Front, ALensThrowsTheCandelaOfTheCalculation) {
  const double luminance = 1e7, source = 0.006, lens = 0.05, through = 0.8;
  const double lumens = luminance * pi * pi * source * source;
  const auto candela = [&](double distance, double angle_deg) {
    const FrontEmission front(
        {.kind = FrontKind::lens, .source_radius = source, .focal = 0.08, .distance = distance},
        {true, lens, lens});
    constexpr int n = 400;
    double sum = 0.0;
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const double x = (2 * (i + 0.5) / n - 1) * lens, y = (2 * (j + 0.5) / n - 1) * lens;
        if (x * x + y * y <= lens * lens) sum += front.at(x, y, std::tan(radians(angle_deg)), 0) * 4 * lens * lens;
      }
    return sum / (n * double(n)) * through * lumens / (pi * pi * lens * lens) * std::cos(radians(angle_deg));
  };
  EXPECT_NEAR(candela(0.06, 0), 14476.5, 60);
  EXPECT_NEAR(candela(0.06, 12), 5986.92, 60);
  EXPECT_NEAR(candela(0.08, 3), 62745.7, 200);
  EXPECT_EQ(candela(0.08, 4.5), 0.0);
}

// Source: geometry, as printed for the calculations `snoot` and `framing-shutter`.
TEST(Front, ATubeAndAGateCutThePoolOfTheCalculations) {
  const auto seen = [](const FrontEmission& front, double x, double far) {
    constexpr int n = 400;
    const double r = front.face().half_width;
    double sum = 0, all = 0;
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const double px = (2 * (i + 0.5) / n - 1) * r, py = (2 * (j + 0.5) / n - 1) * r;
        if (px * px + py * py > r * r) continue;
        all += 1, sum += front.at(px, py, (x - px) / far, -py / far);
      }
    return sum / all;
  };
  const FrontEmission narrow({.kind = FrontKind::tube, .length = 0.15, .mouth_radius = 0.012}, {true, 0.02, 0.02});
  EXPECT_NEAR(seen(narrow, 0, 1.2), 0.470204, 0.003);
  const FrontEmission tube({.kind = FrontKind::tube, .length = 0.15, .mouth_radius = 0.03}, {true, 0.02, 0.02});
  EXPECT_EQ(seen(tube, 0.099, 1.2), 1.0);
  EXPECT_LT(seen(tube, 0.11, 1.2), 1.0);
  EXPECT_GT(seen(tube, 0.375, 1.2), 0.0);
  EXPECT_EQ(seen(tube, 0.381, 1.2), 0.0);

  // A gate of 2 cm, 12 cm behind a lens of 10 cm and 3 cm across: a pool of 0.25 m whose edge is 4.5 cm at 1.5 m.
  const FrontEmission gate(
      {.kind = FrontKind::gate, .focal = 0.1, .distance = 0.12, .gate_width = 0.02, .gate_height = 0.02},
      {true, 0.015, 0.015});
  const double full = seen(gate, 0, 1.5);
  EXPECT_GT(full, 0.0);
  EXPECT_NEAR(seen(gate, 0.125, 1.5), full / 2, 0.01 * full);
  EXPECT_NEAR(seen(gate, 0.125 - 0.0225, 1.5), full, 0.01 * full);
  EXPECT_NEAR(seen(gate, 0.125 + 0.0225, 1.5), 0.0, 0.01 * full);
}

// Source: conservation of energy.
TEST(Front, NoneGivesMoreThanItGets) {
  const struct {
    LightFront front;
    FrontFace face;
    double low, high;
  } cases[] = {
      {{.gap = 0.15}, {false, 0.3, 0.45}, 0.99, 1.01},
      {{.gap = 0.15, .forward = 0.8, .lobe_deg = 15}, {false, 0.3, 0.45}, 0.85, 1.01},
      {{.gap = 0.05, .baffle = 0.1}, {true, 0.4, 0.4}, 0.99, 1.01},
      {{.kind = FrontKind::beads, .gap = 0.02, .exponent = 3, .pitch = 0.02}, {false, 0.1, 0.1}, 0.98, 1.02},
      {{.kind = FrontKind::beads, .exponent = 4, .pitch = 0.1, .bead_radius = 0.03},
       {false, 0.2, 0.2},
       0.95,
       1.05},
      {{.kind = FrontKind::lens, .source_radius = 0.01, .focal = 0.08, .distance = 0.03},
       {true, 0.05, 0.05},
       0.3,
       1.01},
      {{.kind = FrontKind::lens, .source_radius = 0.02, .focal = 0.08, .distance = 0.08},
       {true, 0.05, 0.05},
       0.2,
       0.5},
      {{.kind = FrontKind::tube, .length = 0.1, .mouth_radius = 0.03}, {true, 0.02, 0.02}, 0.02, 0.2},
      {{.kind = FrontKind::gate, .focal = 0.1, .distance = 0.12, .gate_width = 0.06, .gate_height = 0.04},
       {true, 0.05, 0.05},
       0.05,
       1.0}};
  for (const auto& c : cases) {
    const bool bare = c.front.kind == FrontKind::beads && c.front.gap == 0.0;  // beads are small
    const double sum =
        bare ? given(FrontEmission(c.front, c.face), 160, 12) : given(FrontEmission(c.front, c.face), 64, 20);
    EXPECT_GT(sum, c.low) << static_cast<int>(c.front.kind) << " " << c.front.gap;
    EXPECT_LT(sum, c.high) << static_cast<int>(c.front.kind) << " " << c.front.gap;
  }
}

// Own behaviour: the part of a face that shines toward a place, as its spread.
TEST(Front, SaysHowMuchOfItShinesTowardAPlace) {
  const FrontEmission even({}, {false, 0.3, 0.2});
  EXPECT_NEAR(even.seen_from(0.1, 0, 1).first, 1.0, 0.01);
  const FrontEmission hot({.gap = 0.05}, {false, 0.3, 0.3});
  EXPECT_LT(hot.seen_from(0, 0, 1).first, 0.4);
  const FrontEmission tube({.kind = FrontKind::tube, .length = 0.15, .mouth_radius = 0.012}, {true, 0.02, 0.02});
  EXPECT_NEAR(tube.seen_from(0, 0, 1.2).first, std::sqrt(0.470204), 0.02);
  EXPECT_EQ(tube.seen_from(0, 0, -1).first, 1.0);
}

// Source: IES RP-21 and ISO 15469 (value from memory): the sky's luminances sum to what was printed for `window`.
TEST(Outlook, SumsToThePrintedLightOnAPane) {
  for (const auto& [sky, on_pane] : {std::pair{"clear", 9967.52}, {"overcast", 0.0}, {"partly", 0.0}}) {
    const auto view = Outlook::of(30, 355, sky, 0.2);
    ASSERT_TRUE(view);
    const auto open = outdoor_light({30, 355, sky});
    const auto lit = window({30, 60, 355, sky, 0.2});
    double level = 0, pane = 0, ground = 0;
    constexpr int n = 600;
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const double up = pi / 2 * (i + 0.5) / n, aside = 2 * pi * (j + 0.5) / n;
        const double part = std::cos(up) * (pi / 2 / n) * (2 * pi / n);
        const double l = view->luminance(up, aside), facing = std::cos(up) * std::cos(aside - radians(-60));
        level += l * std::sin(up) * part;
        if (facing > 0) pane += l * facing * part, ground += view->luminance(-up, aside) * facing * part;
      }
    EXPECT_NEAR(level, open->diffuse_lx, 0.003 * level) << sky;
    EXPECT_NEAR(pane, lit->sky_lx, 0.003 * pane) << sky;
    EXPECT_NEAR(ground, lit->ground_lx, 0.003 * ground) << sky;
    if (on_pane > 0) EXPECT_NEAR(pane, on_pane, 0.003 * on_pane);
  }
  // Common practice, no source: the colours of sun and sky.
  EXPECT_EQ(sun_kelvin(-1), 2000);
  EXPECT_EQ(sun_kelvin(15), 4000);
  EXPECT_EQ(sun_kelvin(60), 5500);
  EXPECT_GT(sky_kelvin("clear"), 9000);
}

}  // namespace
}  // namespace cinnabar
