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

TEST(Lines, AreCutToWhatIsSeen) {
  const QRectF seen(0, 0, 100, 50);
  EXPECT_EQ(partSeen({-1000, 25, 1000, 25}, seen), QLineF(0, 25, 100, 25));
  EXPECT_EQ(partSeen({50, -50, 50, 25}, seen), QLineF(50, 0, 50, 25));
  EXPECT_EQ(partSeen({10, 10, 20, 20}, seen), QLineF(10, 10, 20, 20));
  EXPECT_EQ(partSeen({30, 30, 30, 30}, seen), QLineF(30, 30, 30, 30)) << "a point stays one";
  EXPECT_EQ(partSeen({-10, 60, 110, 60}, seen), std::nullopt);
  EXPECT_EQ(partSeen({-10, 5, 10, -25}, seen), std::nullopt) << "past the corner";
}

TEST(Shapes, AreCutOutOfSightAndLookTheSame) {
  const QRectF seen(0, 0, 120, 90);
  const QPolygonF shapes[] = {QPolygonF{{60, 45}, {900, -700}, {2000, 1500}},  // a wedge out of the picture
                              QPolygonF{{-400, -300}, {500, -300}, {500, 400}, {-400, 400}},  // all round it
                              QPolygonF{{20, 20}, {80, 30}, {50, 70}},                        // within
                              QPolygonF{{300, 300}, {400, 300}, {350, 400}}};                 // nowhere
  for (const QPolygonF& shape : shapes) {
    QImage cut(120, 90, QImage::Format_ARGB32_Premultiplied), whole = cut;
    for (QImage* image : {&cut, &whole}) {
      image->fill(Qt::white);
      QPainter p(image);
      p.setBrush(QColor(0, 0, 200, 60));
      p.setPen(QPen(Qt::red, 1));
      image == &cut ? drawShape(p, shape, seen) : p.drawPolygon(shape);
    }
    EXPECT_EQ(cut, whole);
  }
  QImage image(120, 90, QImage::Format_ARGB32_Premultiplied);
  image.fill(Qt::white);
  QPainter p(&image);
  p.setPen(Qt::NoPen);
  p.setBrush(Qt::blue);
  drawShape(p, QPolygonF{{60, 45}, {5e5, -5e5}, {5e5, 5e5}}, seen);  // a camera focused on the horizon
  EXPECT_EQ(image.pixelColor(110, 45), QColor(Qt::blue));
  EXPECT_EQ(image.pixelColor(10, 45), QColor(Qt::white));
}

}  // namespace
}  // namespace cinnabar
