// JSON as text: one depth for all readers, and nothing that cannot be written again.
#include "cinnabar/project/document/json_text.h"

#include "cinnabar/project/document/edit.h"
#include "worlds.h"

namespace cinnabar {
namespace {

std::string nested(int depth) {
  return std::string(static_cast<std::size_t>(depth), '[') + std::string(static_cast<std::size_t>(depth), ']');
}

TEST(Depth, IsThatOfListsAndObjectsAndNotOfTexts) {
  EXPECT_EQ(depth_of(std::string_view("3")), 0);
  EXPECT_EQ(depth_of(std::string_view(R"({"a": [1, {"b": "[[[{{\"[["}]})")), 3);
  EXPECT_EQ(depth_of(Json::parse(R"({"a": [1, {"b": []}], "c": {}})")), 4);
  EXPECT_EQ(depth_of(std::string_view(nested(70))), 70);
}

TEST(ParseJson, RefusesWhatIsNestedTooDeepBeforeItIsRead) {
  EXPECT_TRUE(parse_json(nested(deepest_json), "x"));
  for (const int depth : {deepest_json + 1, 100000, 3000000}) {
    const auto read = parse_json(nested(depth), "x.json");
    ASSERT_FALSE(read);
    EXPECT_NE(read.error().text().find("nested more than"), std::string::npos);
    EXPECT_FALSE(parsed_json(nested(depth)));
  }
}

TEST(ParseJson, NamesWhereItsLettersAreNotUtf8) {
  const auto latin = parse_json("{\n  \"name\": \"caf\xE9\"\n}", "x.json");
  ASSERT_FALSE(latin);
  EXPECT_NE(latin.error().text().find("line 2, column 15"), std::string::npos) << latin.error().text();
  EXPECT_NE(latin.error().mend.find("UTF-8"), std::string::npos);
  // RFC 8259, section 8.1: UTF-8; what comes as UTF-16 with its mark is read all the same.
  const std::string wide(
      "\xFF\xFE{\0\"\0a\0\"\0:\0"
      "1\0}\0",
      16);
  ASSERT_TRUE(parse_json(wide, "x.json"));
  EXPECT_EQ(*parse_json(wide, "x.json"), (Json{{"a", 1}}));
  EXPECT_TRUE(parse_json("\xEF\xBB\xBF{}", "x.json"));
}

TEST(JsonText, NeverFails) { EXPECT_EQ(json_text(Json{{"name", "caf\xE9"}}), "{\"name\":\"caf\xEF\xBF\xBD\"}"); }

/// Whatever `set` accepts, an exported project reads back.
TEST(WithValue, TakesNothingThatIsDeeperThanReadersTake) {
  const Document doc = *Document::from_json(worlds::bare());
  Json deep = 1;
  for (int k = 0; k < deepest_json + 20; ++k) {
    const auto next = with_value(doc, "/shots/0/extra", deep);
    if (next && validate(*next, edit_between(doc, *next, "")).empty()) {
      const auto back = parse_json(json_text(next->to_json(), 1), "x");
      ASSERT_TRUE(back) << k;
      EXPECT_TRUE(validate(*back).empty()) << k;
    } else {
      EXPECT_GT(k, deepest_json - 8) << "refused too early";
    }
    deep = Json::array({deep});
  }
  EXPECT_FALSE(with_value(doc, "/shots/0/extra", deep));
  EXPECT_FALSE(with_value(doc, "/kit~1lights", Json::array())) << "would read as a list of the kit";
}

TEST(StoredRows, AreReadWhenTheyAreLookedAtInTheOrderOfTheirPlaces) {
  StoredRows rows;
  rows.add("b", R"({"id":"b","n":2})", 1);
  rows.add("a", R"({"id":"a","n":1})", 0);
  rows.add("c", R"({"id":"c", torn)", 2);
  rows.add("d", R"({"id":"other"})", 3);
  const auto list = std::move(rows).taken();
  ASSERT_EQ(list.size(), 4u);
  EXPECT_EQ((*list[0])["n"], 1);
  EXPECT_EQ(list[1]->at("n"), 2);
  EXPECT_FALSE(list[0].damaged());
  EXPECT_TRUE(list[2].damaged());
  EXPECT_EQ(*list[2], (Json{{"id", "c"}})) << "what is left of it";
  EXPECT_TRUE(list[3].damaged()) << "its id is another row's";
  const JsonPtr same = list[0];
  EXPECT_TRUE(same == list[0]);
  EXPECT_FALSE(same == JsonPtr(std::make_shared<const Json>(*list[0]))) << "an equal one is not the same";
}

}  // namespace
}  // namespace cinnabar
