// Wishes: what is answered is what is found when it is set up; what cannot be says why; bad words are refused.
#include "cinnabar/forecast/wishes/wishes.h"

#include "cinnabar/forecast/measures/strip_image.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

Wish wish(const std::string& kind, const std::vector<std::string>& words = {}) {
  auto read = read_wish(kind, words);
  EXPECT_TRUE(read) << read.error().text();
  return *read;
}

/// A gloss can under a strip and a key, off the origin and before a wall.
Json glossy(const Json& place = {0, 0, 0}) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "gloss"}, {"colour", {0.3, 0.05, 0.05}}, {"ior", 1.5}});
  doc["shots"][0]["products"][0]["place"] = place;
  doc["shots"][0]["camera"]["aim"] = {place[0].get<double>(), 0.05, place[2].get<double>()};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("strip", {-1.2, 0.3, 0.5}, {0, 0.05, 0}, 0.2, 1.0, 3000));
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.5, 0.8}, {0, 0.05, 0}, 0.5, 0.5, 4000));
  doc["setups"][0]["backdrop"] = {{"kind", "flat"}, {"distance", 1.0}, {"width", 4.0},
                                  {"height", 4.0},  {"low", -2.0},     {"material", worlds::matte(0.4, 0.4, 0.4)}};
  return doc;
}

WishAnswers asked(const Json& doc, const std::vector<Wish>& wishes) {
  static const Forecaster forecaster;
  const auto answers = answers_for(forecaster, *Document::from_json(doc), 0, wishes);
  EXPECT_TRUE(answers) << answers.error().text();
  return answers ? *answers : WishAnswers{};
}
Document taken(const Json& doc, const WishAnswer& answer) {
  const auto after = with_values(*Document::from_json(doc), answer.changes);
  EXPECT_TRUE(after);
  EXPECT_TRUE(validate(*after).empty()) << answer.title;
  return *after;
}

// Source: the law of reflection, by the measure of stripes: what is set up lies where it was wanted.
TEST(WishForAStripe, IsFoundWhereItWasWanted) {
  for (const Json& place : {Json{0, 0, 0}, Json{0.3, 0, -0.2}})
    for (const auto& [at, width] : {std::pair{-0.6, 5.0}, {0.5, 8.0}, {0.8, 3.0}}) {
      const Json doc = glossy(place);
      const auto answers =
          asked(doc, {wish("stripe", {fmt::format("at={}", at), fmt::format("width={}", width)})});
      ASSERT_FALSE(answers.list.empty()) << at << " " << answers.why;
      for (const WishAnswer& answer : answers.list) {
        EXPECT_TRUE(answer.met);
        ProjectReader reader;
        const Project p = reader.read(taken(doc, answer));
        const Product& can = *p.products[0];
        const auto image =
            strip_image(p, *p.shots[0], *p.setups[0], p.shots[0]->products[0], *widest_straight(can), 0.0);
        ASSERT_TRUE(image) << answer.title;
        EXPECT_NEAR((image->left + image->right) / 2, at, 0.05) << answer.title;
        EXPECT_NEAR(image->width_percent, width, 0.12 * width + 0.3) << answer.title;
        EXPECT_NEAR(answer.value, image->width_percent, 0.2) << answer.title;
      }
    }
}

// Own behaviour: each kind that a level measures, set up and measured anew.
TEST(WishForALevel, IsWhatTheLevelThenSays) {
  const Json doc = glossy();
  for (const auto& [kind, words, level, low, high] :
       {std::tuple{"ratio", std::vector<std::string>{"stops=1.5"}, "light.ratio", 1.34, 1.66},
        {"soft", std::vector<std::string>{"mm=8"}, "light.soft", 7.1, 8.9}}) {
    const auto answers = asked(doc, {wish(kind, words)});
    ASSERT_FALSE(answers.list.empty()) << kind << ": " << answers.why;
    EXPECT_LE(answers.list.size(), 3u);
    for (const WishAnswer& answer : answers.list) {
      const auto then = level_of(taken(doc, answer).to_json(), level);
      ASSERT_TRUE(then && then->value) << answer.title;
      EXPECT_GE(*then->value, low) << answer.title;
      EXPECT_LE(*then->value, high) << answer.title;
      EXPECT_NEAR(*then->value, answer.value, 0.05) << answer.title;
      EXPECT_FALSE(answer.levels.empty()) << "something moves";
    }
  }
}

// Own behaviour.
TEST(Wishes, TogetherAreMetTogetherOrSayWhichStandsAgainstWhich) {
  const Json doc = glossy();
  const auto both = asked(doc, {wish("stripe", {"at=-0.6", "width=5"}), wish("ratio", {"stops=1.5"})});
  ASSERT_FALSE(both.list.empty()) << both.why;
  const Document after = taken(doc, both.list.front());
  const auto ratio = level_of(after.to_json(), "light.ratio");
  EXPECT_NEAR(*ratio->value, 1.5, 0.16);
  const auto again = asked(after.to_json(), {wish("stripe", {"at=-0.6", "width=5"})});
  ASSERT_EQ(again.list.size(), 1u);
  EXPECT_TRUE(again.list[0].changes.empty()) << "it is so already";
  const auto never = asked(doc, {wish("stripe", {"at=0.5", "width=60"})});
  EXPECT_TRUE(never.list.empty());
  EXPECT_FALSE(never.why.empty());
  EXPECT_GT(never.short_of, 1.0);
  const auto against = asked(doc, {wish("ratio", {"stops=1.5"}), wish("ratio", {"stops=3"})});
  EXPECT_TRUE(against.list.empty());
  EXPECT_FALSE(against.why.empty());
}

// Source: the law of reflection, by hand: at the can's front a light beside the lens is mirrored, carried aside it
// is not.
TEST(WishForNoMirror, MovesTheLightThatIsMirrored) {
  Json doc = glossy();
  doc["setups"][0]["lights"][1]["place"] = {0.0, 0.45, 1.0};
  doc["setups"][0]["lights"][1]["height"] = 1.2;
  const auto answers = asked(doc, {wish("no-mirror", {"at=0,0.05,0.04"})});
  ASSERT_FALSE(answers.list.empty()) << answers.why;
  for (const WishAnswer& answer : answers.list) {
    const auto again = asked(taken(doc, answer).to_json(), {wish("no-mirror", {"at=0,0.05,0.04"})});
    ASSERT_EQ(again.list.size(), 1u) << answer.title;
    EXPECT_TRUE(again.list[0].changes.empty()) << answer.title;
  }
  const Forecaster forecaster;
  EXPECT_FALSE(answers_for(forecaster, *Document::from_json(doc), 0, {wish("no-mirror", {"at=0,0.05,-0.04"})}))
      << "the back is not seen";
}

// Source: the law of reflection, by hand: a lamp that none may carry (a window), a white card, and a lamp that a
// flat side meets only when it has turned.
TEST(WishForNoMirror, KnowsCardsWindowsAndWhatTurns) {
  const auto granted = [](const Json& doc, const std::string& with, const char* at = "at=0,0.05,0.04") {
    const auto answers = asked(doc, {wish("no-mirror", {at})});
    EXPECT_FALSE(answers.list.empty()) << answers.why;
    bool found = false;
    for (const WishAnswer& answer : answers.list) {
      found = found || answer.title.find(with) != std::string::npos;
      const auto again = asked(taken(doc, answer).to_json(), {wish("no-mirror", {at})});
      EXPECT_TRUE(!again.list.empty() && again.list[0].changes.empty()) << answer.title;
    }
    EXPECT_TRUE(found) << with << ", not " << (answers.list.empty() ? answers.why : answers.list[0].title);
  };
  Json card = glossy();
  card["setups"][0]["lights"].erase(1);
  card["setups"][0]["cards"].push_back(
      worlds::card("white", {0.0, 0.45, 1.0}, {0, 0.05, 0}, 0.6, 1.2, worlds::matte(0.85, 0.85, 0.85)));
  granted(card, "Carry white");
  card["setups"][0]["cards"][0]["material"] = worlds::matte(0.03, 0.03, 0.03);
  granted(card, "It is so already");

  Json window = glossy();
  window["setups"][0]["lights"].erase(1);
  window["setups"][0]["room"] = {
      {"width", 3.0}, {"depth", 4.0}, {"height", 2.6}, {"sky", "overcast"}, {"north_deg", 0}};
  window["setups"][0]["room"]["windows"] = Json::array({Json{{"id", "w"},
                                                             {"name", "Window"},
                                                             {"wall", "right"},
                                                             {"along", 0.0},
                                                             {"low", 0.2},
                                                             {"width", 3.0},
                                                             {"height", 2.0}}});
  window["project"].update({{"date", "2026-06-21"}, {"hour", 11.0}, {"latitude", 50.0}, {"longitude", 10.0}});
  granted(window, "Stand a black card", "at=0.025,0.05,0.0312");

  // A square body whose corner turns by: the side that faces the lens at first goes 40 degrees round, and what it
  // mirrors by twice as much.
  Json turning = glossy();
  Json& part = turning["products"][0]["parts"][0];
  part["section"] = "box";
  part["profile"] = {{0.0, 0.0, 0.0}, {0.04, 0.0, 0.04}, {0.04, 0.1, 0.04}, {0.0, 0.1, 0.0}};
  turning["setups"][0]["lights"][0]["on"] = false;
  turning["setups"][0]["lights"][1]["place"] = {0.985, 0.05, 0.174};  // at 80 degrees
  turning["setups"][0]["lights"][1]["aim"] = {0, 0.05, 0};
  granted(turning, "It is so already");
  turning["shots"][0]["tracks"] = Json::array({worlds::moving("turntable", "linear", {{0, 0}, {2, 40}})});
  granted(turning, "Carry key");
}

// Own behaviour: glass before a bright wall between black cards.
TEST(WishForEdges, ArePaidForByCardsThatAreMeasured) {
  Json doc = glossy();
  doc["products"][0]["parts"][0]["material"] = {{"kind", "glass"}, {"ior", 1.5}};
  doc["products"][0]["parts"][0]["wall"] = 0.003;
  doc["setups"][0]["backdrop"]["width"] = 0.5,
  doc["setups"][0]["backdrop"]["material"] = worlds::matte(0.02, 0.02, 0.02);
  bool by_cards = false;
  for (const char* kind : {"dark-edge", "bright-edge"}) {
    const auto answers = asked(doc, {wish(kind)});
    for (const WishAnswer& answer : answers.list) {
      by_cards = by_cards || !answer.changes.empty();
      EXPECT_TRUE(std::string(kind) == "dark-edge" ? answer.value <= -1.0 : answer.value >= 1.0) << answer.title;
      const auto again = asked(taken(doc, answer).to_json(), {wish(kind)});
      EXPECT_TRUE(!again.list.empty() && again.list[0].changes.empty()) << answer.title;
    }
    if (answers.list.empty()) {
      EXPECT_GT(answers.short_of, 0.0) << answers.why;
    }
  }
  EXPECT_TRUE(by_cards);
  const Forecaster forecaster;
  EXPECT_FALSE(answers_for(forecaster, *Document::from_json(glossy()), 0, {wish("dark-edge")}))
      << "a can has none";
}

// Own behaviour.
TEST(WishForAPool, FallsOffByAboutAStop) {
  Json doc = glossy();
  doc["setups"][0]["lights"][0]["lumens"] = 60, doc["setups"][0]["lights"][1]["lumens"] = 60;
  const auto answers = asked(doc, {wish("pool", {"at=0,0.05,0.04", "radius=0.03"})});
  ASSERT_FALSE(answers.list.empty()) << answers.why;
  for (const WishAnswer& answer : answers.list) {
    EXPECT_GE(answer.value, 0.7) << answer.title;
    EXPECT_LE(answer.value, 2.0) << answer.title;
    taken(doc, answer);
  }
}

class BadWish : public testing::TestWithParam<std::tuple<const char*, std::vector<std::string>, const char*>> {};
// Own behaviour.
TEST_P(BadWish, IsRefusedByName) {
  const auto& [kind, words, place] = GetParam();
  const auto read = read_wish(kind, words);
  ASSERT_FALSE(read) << kind;
  EXPECT_EQ(read.error().place, place) << read.error().text();
  EXPECT_FALSE(read.error().mend.empty());
}
using Words = std::vector<std::string>;
INSTANTIATE_TEST_SUITE_P(Words, BadWish,
                         testing::Values(std::tuple{"wings", Words{}, "wings"},
                                         std::tuple{"stripe", Words{"at=0"}, "stripe width"},
                                         std::tuple{"stripe", Words{"at=2", "width=5"}, "stripe at"},
                                         std::tuple{"stripe", Words{"at=nan", "width=5"}, "stripe at"},
                                         std::tuple{"soft", Words{"mm=-1"}, "soft mm"},
                                         std::tuple{"soft", Words{"mm"}, "mm"},
                                         std::tuple{"soft", Words{"mm=3", "cm=1"}, "soft cm"},
                                         std::tuple{"pool", Words{"radius=0.1"}, "pool at"},
                                         std::tuple{"pool", Words{"radius=0.1", "at=1,2"}, "pool at"},
                                         std::tuple{"gradient", Words{"stops=2", "from=behind"}, "gradient from"},
                                         std::tuple{"dark-edge", Words{"width=1"}, "dark-edge width"}));

}  // namespace
}  // namespace cinnabar
