// Words can be read in both themes: contrast as WCAG 2.1 defines it (W3C 2018, success criterion 1.4.3: 4.5 to 1
// for text; large or dimmed on purpose 3 to 1).
#include "cinnabar/desktop/theme/theme.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace cinnabar {
namespace {

/// Relative luminance, with the sRGB curve as WCAG prints it.
double relative_luminance(const QColor& c) {
  const auto linear = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
  return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}
double contrast(const QColor& a, const QColor& b) {
  const double la = relative_luminance(a), lb = relative_luminance(b);
  return (std::max(la, lb) + 0.05) / (std::min(la, lb) + 0.05);
}

TEST(Contrast, IsTheRatioThatTheStandardPrints) {
  EXPECT_NEAR(contrast(Qt::black, Qt::white), 21.0, 1e-9);
  EXPECT_NEAR(contrast(QColor("#777777"), Qt::white), 4.48, 0.005);  // value from memory
}

class ThemeContrast : public testing::TestWithParam<bool> {
 protected:
  void SetUp() override { setTheme(GetParam()); }
  void TearDown() override { setTheme(false); }
};
TEST_P(ThemeContrast, OfWordsOnWhatTheyStandOnIsEnough) {
  const Theme& t = theme();
  const double least = t.dark ? 3.0 : 4.5;
  const std::pair<const char*, QColor> words[] = {
      {"ink", t.ink}, {"quiet", t.quiet}, {"accent", t.accent}, {"good", t.good}, {"leaning", t.leaningInk}};
  for (const auto& [name, color] : words)
    for (const auto& [under, ground] : {std::pair{"ground", t.ground}, std::pair{"panel", t.panel}})
      EXPECT_GE(contrast(color, ground), least) << name << " on " << under;
  EXPECT_GE(contrast(t.onSelected, t.selected), 4.5);
  // What is drawn, not written: 1.4.11, 3 to 1.
  for (const QColor& mark : {t.accent, t.good, t.leaning})
    EXPECT_GE(contrast(mark, t.panel), 3.0) << mark.name().toStdString();
}
INSTANTIATE_TEST_SUITE_P(Themes, ThemeContrast, testing::Bool());

}  // namespace
}  // namespace cinnabar
