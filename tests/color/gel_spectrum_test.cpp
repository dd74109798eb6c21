// Gels by their spectrum: the observer, neutral and deep gels.
#include "cinnabar/color/gel_spectrum.h"

#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/color/white.h"

namespace cinnabar {
namespace {

// Source: CIE 15:2004, table T.4, the 1931 observer; the fit of Wyman, Sloan & Shirley 2013 keeps within 0.06 of
// it.
TEST(ColourMatching, FollowsTheObserversTable) {
  const struct {
    double nm, x, y, z;
  } rows[]{{420, 0.13438, 0.0040, 0.64560},  {450, 0.33620, 0.03800, 1.77211}, {480, 0.09564, 0.13902, 0.81295},
           {520, 0.06327, 0.71000, 0.07825}, {555, 0.51205, 1.00000, 0.00575}, {600, 1.06220, 0.63100, 0.00080},
           {650, 0.28350, 0.10700, 0.00000}};
  for (const auto& row : rows) {
    SCOPED_TRACE(row.nm);
    const auto seen = colour_matching(row.nm);
    EXPECT_NEAR(seen[0], row.x, 0.06);
    EXPECT_NEAR(seen[1], row.y, 0.03);
    EXPECT_NEAR(seen[2], row.z, 0.06);
  }
}

// Source: by hand: a grey filter takes the same of each band, whatever the light.
TEST(GelBands, OfAGreyFilterAreItsShare) {
  for (const double kelvin : {2000.0, 3200.0, 5600.0, 20000.0})
    for (const double share : {1.0, 0.5, 0.03}) {
      const auto bands = gel_bands({{500, share}}, kelvin);
      for (const double band : bands) EXPECT_NEAR(band, share, 1e-9) << kelvin;
    }
  EXPECT_EQ(gel_bands({}, 3200), (std::array<double, 3>{1, 1, 1}));
  EXPECT_EQ(gel_bands({{500, 0}}, 3200), (std::array<double, 3>{0, 0, 0}));
}

// Source: Planck's law and the observer summed here in wider steps; what is let through keeps its luminance.
TEST(GelBands, KeepTheLuminanceThatIsLetThrough) {
  const std::vector<PassedAt> curves[]{{{700, 0.9}, {400, 0.1}},                             // warm, out of order
                                       {{400, 0.8}, {500, 0.5}, {560, 0.1}, {700, 0.05}},    // blue
                                       {{440, 0.05}, {520, 0.7}, {560, 0.6}, {620, 0.05}}};  // green
  for (const auto& curve : curves)
    for (const double kelvin : {3200.0, 5600.0}) {
      auto rising = curve;
      std::sort(rising.begin(), rising.end(), [](const auto& a, const auto& b) { return a.nm < b.nm; });
      double all = 0, through = 0;
      for (double nm = 385; nm < 780; nm += 5) {
        std::size_t k = 0;
        while (k + 1 < rising.size() && rising[k + 1].nm <= nm) ++k;
        double share = rising[k].share;
        if (nm > rising[k].nm && k + 1 < rising.size())
          share += (rising[k + 1].share - share) * (nm - rising[k].nm) / (rising[k + 1].nm - rising[k].nm);
        const double light = std::pow(nm, -5.0) / (std::exp(1.4388e7 / (nm * kelvin)) - 1.0);
        all += light * colour_matching(nm)[1], through += light * colour_matching(nm)[1] * share;
      }
      const auto bands = gel_bands(curve, kelvin);
      const auto shown = gel_colour({kelvin, {bands[0], bands[1], bands[2]}});
      ASSERT_TRUE(shown);
      EXPECT_NEAR(*shown->transmittance, through / all, 0.02 * through / all) << kelvin;
    }
}

// Source: by the colours' names: a filter that lets the long waves through is red, the short ones blue.
TEST(GelBands, OfDeepFiltersAreTheirColour) {
  const auto red = gel_bands({{589, 0}, {590, 1}}, 3200), blue = gel_bands({{480, 1}, {481, 0}}, 5600);
  EXPECT_GT(red[0], 0.4);
  EXPECT_LT(red[1], 0.2 * red[0]);
  EXPECT_LT(red[2], 0.1 * red[0]);
  EXPECT_GT(blue[2], 5 * blue[1]);
  EXPECT_LT(blue[0], 0.3 * blue[2]);
  for (const auto& bands : {red, blue})
    for (const double band : bands) EXPECT_TRUE(band >= 0.0 && band <= 1.0) << band;
}

}  // namespace
}  // namespace cinnabar
