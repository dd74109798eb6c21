// The hand meter that stands in: its language, what it reads on a set that is otherwise, and odd lines.
#include "cinnabar/devices/hand_meter.h"

#include <cmath>

#include "cinnabar/base/text.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Project small_set() {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0, 0.05, 3}, {0, 0.05, 0}, 0.05, 0.05, 3000)});
  return worlds::read(doc);
}
SimulatedMeter meter_of(const Project& p, const MeterSettings& settings = {}) {
  const auto other = otherwise(p, *p.shots[0], settings);
  EXPECT_TRUE(other);
  return {*other, *p.shots[0], 0.0, settings};
}
double lux_of(const std::string& answer) {
  const auto words = split(answer, ' ');
  EXPECT_EQ(words.size(), 3u) << answer;
  EXPECT_EQ(words[0], "ok") << answer;
  return parse_number(words.at(1)).value_or(-1.0);
}

// Source: inverse square of a small face far away, E = flux / (pi d^2) (Lambert 1760).
TEST(HandMeter, ReadsTheSetAsItOtherwiseIs) {
  const Project p = small_set();
  auto plain = meter_of(p);
  EXPECT_EQ(plain.answer("hello"), "ok meter 1 lux kelvin");
  EXPECT_EQ(plain.answer("hold 0 0.05 0 0 0 1"), "ok");
  const double expected = 3000.0 / pi / 9.0;
  EXPECT_NEAR(lux_of(plain.answer("read")), expected, 0.005 * expected);
  EXPECT_NEAR(parse_number(split(plain.answer("read"), ' ').at(2)).value_or(0.0), 5600, 15);
  auto other = meter_of(p, {.factors = {{"key", 0.5}}, .beams = {}, .bounce_lx = 40.0});
  EXPECT_EQ(other.answer("hold 0 0.05 0 0 0 2"), "ok");
  EXPECT_NEAR(lux_of(other.answer("read")), 0.5 * expected + 40.0, 0.01 * expected);
  auto narrow = meter_of(p, {.factors = {}, .beams = {{"key", 20.0}}});
  EXPECT_EQ(narrow.answer("hold 2 0.05 0 0 0 1"), "ok");
  EXPECT_EQ(narrow.answer("read"), "ok 0 0") << "33 degrees aside of a beam of 20";
}

// Own behaviour: errors are spread as asked for and the same again by their seed.
TEST(HandMeter, IsAsUnsureAsItWasAsked) {
  const Project p = small_set();
  auto a = meter_of(p, {.error = 0.05, .seed = 4}), b = meter_of(p, {.error = 0.05, .seed = 4});
  ASSERT_EQ(a.answer("hold 0 0.05 0 0 0 1"), "ok");
  ASSERT_EQ(b.answer("hold 0 0.05 0 0 0 1"), "ok");
  double sum = 0, squares = 0;
  constexpr int count = 200;
  for (int k = 0; k < count; ++k) {
    const std::string read = a.answer("read");
    EXPECT_EQ(read, b.answer("read"));
    const double off = lux_of(read) / (3000.0 / pi / 9.0) - 1.0;
    sum += off, squares += off * off;
  }
  EXPECT_NEAR(sum / count, 0.0, 0.015);
  EXPECT_NEAR(std::sqrt(squares / count), 0.05, 0.01);
}

// Own behaviour: whatever is said, there is one answer, and it says what to do.
TEST(HandMeter, AnswersOddLines) {
  auto meter = meter_of(small_set());
  EXPECT_TRUE(meter.answer("read").starts_with("error read: it is held nowhere"));
  for (const char* odd :
       {"", " ", "HELLO", "hold", "hold 1 2 3", "hold 0 0 0 0 0 0", "hold nan 0 0 0 0 1", "hold 1e9 0 0 0 0 1",
        "hold 0 0 0 0 0 1 7", "hold 0x0 0 0 0 0 1", "\xff\xfe", "read it; now"}) {
    const std::string answer = meter.answer(odd);
    if (std::string(odd) == "read it; now") continue;  // a word more is no harm
    EXPECT_TRUE(answer.starts_with("error ")) << odd << ": " << answer;
    EXPECT_NE(answer.find("; "), std::string::npos) << "with what to do";
  }
  EXPECT_TRUE(meter.answer(std::string(401, 'h')).starts_with("error line: is too long"));
  EXPECT_EQ(meter.answer("hold 0 0.05 0 0 0 1"), "ok");
  EXPECT_TRUE(meter.answer("read").starts_with("ok "));
  EXPECT_EQ(meter.answer("put-down"), "ok");
  EXPECT_TRUE(meter.answer("read").starts_with("error read"));
  EXPECT_EQ(meter.answer("hold 0 0.05 0 0 0 1"), "ok");
  meter.left();
  EXPECT_TRUE(meter.answer("read").starts_with("error read")) << "whoever held it has gone";
  const Project p = small_set();
  EXPECT_FALSE(otherwise(p, *p.shots[0], {.factors = {{"lamp", 2.0}}}));
  EXPECT_FALSE(otherwise(p, *p.shots[0], {.factors = {}, .beams = {{"lamp", 20.0}}}));
}

}  // namespace
}  // namespace cinnabar
