// Documents: reading, writing, pointers, edits, validation, and input that means no good.
#include <fstream>
#include <random>

#include "cinnabar/project/document/edit.h"
#include "cinnabar/project/document/json_text.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Json rich() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "gloss"}, {"colour", {0.2, 0.3, 0.4}}}, true);
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.4}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  doc["takes"].push_back({{"id", "t1"}, {"shot", "s1"}, {"number", 1}, {"kept", true}, {"reasons", {"late"}}});
  doc["blobs"] = {{"pic", {{"type", "image/png"}, {"data", worlds::dot_png}, {"made_by", "hand"}}}};
  doc["unknown_at_the_top"] = {{"kept", {1, 2.5, nullptr, "text"}}};
  doc["kit"]["stands"] = Json::array({{{"id", "boom"}, {"reach", 1.4}}});
  doc["kit"]["remark"] = "borrowed";
  doc["shots"][0]["camera"]["unknown"] = 1e-7;
  return doc;
}

TEST(Document, ComesBackFromJsonUnchangedUnknownFieldsAndAll) {
  const Json doc = rich();
  ASSERT_TRUE(validate(doc).empty());
  EXPECT_EQ(Document::from_json(doc)->to_json(), doc);
  const Json again = Json::parse(Document::from_json(doc)->to_json().dump());
  EXPECT_EQ(again, doc);
}

TEST(Document, KeepsWhetherAListIsEmptyOrAbsent) {
  Json doc = worlds::bare();
  EXPECT_EQ(Document::from_json(doc)->to_json(), doc);
  doc.erase("takes");
  EXPECT_EQ(Document::from_json(doc)->to_json(), doc);
}

TEST(Pointer, SetsMakesAppendsAndRemoves) {
  const Document doc = *Document::from_json(rich());
  EXPECT_EQ((*with_value(doc, "/shots/0/camera/iso", 800)).to_json()["shots"][0]["camera"]["iso"], 800);
  EXPECT_EQ((*with_value(doc, "/shots/0/needs", Json{{"slow", 2.0}})).to_json()["shots"][0]["needs"]["slow"], 2.0);
  EXPECT_EQ((*with_value(doc, "/kit/lights/0/lumens", 9000)).to_json()["kit"]["lights"][0]["lumens"], 9000);
  EXPECT_EQ((*with_value(doc, "/project/name", "Other")).to_json()["project"]["name"], "Other");
  EXPECT_EQ((*with_value(doc, "/takes/-", Json{{"id", "t2"}, {"shot", "s1"}})).to_json()["takes"].size(), 2u);
  EXPECT_FALSE((*with_value(doc, "/shots/0/camera/unknown", std::nullopt))
                   .to_json()["shots"][0]["camera"]
                   .contains("unknown"));
  EXPECT_EQ(value_at(doc, "/setups/0/lights/0/lumens"), std::optional<Json>(4000.0));
  for (const char* bad : {"", "shots", "/shots/7/name", "/shots/x/name", "/nothing/there",
                          "/shots/0/camera/iso/deep", "/shots/-1", "/~2", "/shots/99999999999999999999/name"})
    EXPECT_FALSE(with_value(doc, bad, 1)) << bad;
}

TEST(Edit, LeadsThereAndBack) {
  const Document before = *Document::from_json(rich());
  std::mt19937 random(3);
  Document now = before;
  for (int i = 0; i < 200; ++i) {
    Document next = now;
    auto& shots = next.lists["shots"];
    switch (random() % 5) {
      case 0: {
        Json copy = *shots[random() % shots.size()];
        copy["id"] = "n" + std::to_string(i);
        shots.insert(shots.begin() + static_cast<std::ptrdiff_t>(random() % (shots.size() + 1)),
                     std::make_shared<const Json>(copy));
        break;
      }
      case 1:
        if (shots.size() > 1) shots.erase(shots.begin() + static_cast<std::ptrdiff_t>(random() % shots.size()));
        break;
      case 2:
        std::shuffle(shots.begin(), shots.end(), random);
        break;
      case 3:
        next = *with_value(next, "/project/notes", "note " + std::to_string(i));
        break;
      default:
        next.blobs["b" + std::to_string(random() % 3)] =
            std::make_shared<const Blob>(Blob{{{"type", "x"}}, {static_cast<unsigned char>(i)}});
    }
    const Edit edit = edit_between(now, next, "step");
    EXPECT_EQ(applied(now, edit).to_json(), next.to_json()) << i;
    EXPECT_EQ(applied(next, edit, false).to_json(), now.to_json()) << i;
    now = next;
  }
}

TEST(Validation, ReportsEveryFaultWithItsPathAndMend) {
  Json doc = rich();
  doc["project"].erase("name");
  doc["project"]["timeline_rate"] = 25;
  doc["house_rules"] = {{"shutter", "twice"}};
  doc["bands"] = {{"motion.smear", {{"low", 5}, {"high", 2}}}};
  doc["setups"][0]["lights"][0]["dimmer"] = 1.5;
  doc["setups"][0]["lights"][0].erase("width");
  doc["setups"][0]["lights"].push_back(doc["setups"][0]["lights"][0]);
  doc["shots"][0]["setup"] = "Z";
  doc["shots"][0]["camera"]["focus"] = 0.04;
  doc["shots"][0]["camera"]["mode"] = "none-such";
  doc["shots"][0]["tracks"] = Json::array({{{"target", "light.nope.dimmer"}, {"keys", {{1, 0}, {0, 1}}}}});
  doc["shots"][0]["play"] = {{0, 0}};
  doc["products"][0]["label"]["high"] = 0.01;
  doc["products"][0]["parts"][0]["profile"] = "round";
  doc["takes"][0]["shot"] = "s9";
  doc["deliverables"][0]["width"] = 19.5;
  std::set<std::string> paths;
  for (const DocumentFault& f : validate(doc)) {
    EXPECT_FALSE(f.message.empty());
    EXPECT_FALSE(f.mend.empty());
    paths.insert(f.path);
  }
  for (const char* path :
       {"/project/name", "/project/timeline_rate", "/house_rules/shutter", "/bands/motion.smear/high",
        "/setups/0/lights/0/dimmer", "/setups/0/lights/0/width", "/setups/0/lights/1/id", "/shots/0/setup",
        "/shots/0/camera/focus", "/shots/0/camera/mode", "/shots/0/tracks/0/target", "/shots/0/tracks/0/keys",
        "/shots/0/play", "/products/0/label/high", "/products/0/parts/0/profile", "/takes/0/shot",
        "/deliverables/0/width"})
    EXPECT_TRUE(paths.contains(path)) << path;
}

TEST(Validation, AnEditIsCheckedAsTheWholeIs) {
  const Document doc = *Document::from_json(rich());
  const std::vector<std::pair<const char*, Json>> values{{"/shots/0/camera/iso", -1},
                                                         {"/setups/0/lights", Json::array()},
                                                         {"/shots/0/setup", "Q"},
                                                         {"/project/timeline_rate", "x"},
                                                         {"/kit/cameras/0/modes/0/id", "renamed"},
                                                         {"/products", Json::array()},
                                                         {"/shots/0/name", "fine"},
                                                         {"/shots", "gone"}};
  for (const auto& [pointer, value] : values) {
    const auto next = with_value(doc, pointer, value);
    ASSERT_TRUE(next) << pointer;
    EXPECT_EQ(validate(*next, edit_between(doc, *next, "")).empty(), validate(*next).empty()) << pointer;
  }
}

TEST(Json, ErrorsNameLineAndColumn) {
  const auto wrong = parse_json("{\n  \"a\": 1,\n  \"b\": nope\n}", "spot.json");
  ASSERT_FALSE(wrong);
  EXPECT_EQ(wrong.error().place, "spot.json");
  EXPECT_NE(wrong.error().message.find("line 3"), std::string::npos) << wrong.error().message;
  EXPECT_EQ(wrong.error().fault, Fault::input);
}

TEST(HostileJson, IsRefusedOrReportedNeverFollowed) {
  EXPECT_FALSE(parse_json("", "x"));
  EXPECT_FALSE(parse_json(std::string(1000000, '['), "x"));
  EXPECT_FALSE(parse_json("{\"a\": 1e999}", "x"));
  EXPECT_FALSE(parse_json("{\"a\": NaN}", "x"));
  EXPECT_FALSE(parse_json(std::string("{\"a\": \"\xff\xfe\"}"), "x"));
  const std::string text = rich().dump();
  for (std::size_t cut = 0; cut < text.size(); cut += 7) {
    const auto value = parse_json(text.substr(0, cut), "cut");
    EXPECT_TRUE(!value || !validate(*value).empty());
  }
  for (const char* whole :
       {"null", "[]", "3", "\"text\"", "{}", R"({"shots": {"a": 1}})", R"({"kit": [], "shots": [null, 3, []]})",
        R"({"project": null, "setups": [{"id": 3, "lights": [{}]}]})"})
    EXPECT_FALSE(validate(Json::parse(whole)).empty()) << whole;
}

/// Any value put anywhere is either valid, and then can be read into a project, or a fault; nothing throws.
TEST(HostileJson, AnyValueAnywhereIsAFaultOrReadable) {
  const Json doc = rich();
  const Json flat = doc.flatten();
  const Json poisons[] = {nullptr,       true,           -1,           0,      1e300,       -1e300, "text",
                          Json::array(), Json::object(), Json{{1, 2}}, 1e-300, "24000/1001"};
  int readable = 0;
  for (const auto& [pointer, value] : flat.items())
    for (const Json& poison : poisons) {
      Json hurt = doc;
      hurt[Json::json_pointer(pointer)] = poison;
      if (!validate(hurt).empty()) continue;
      const auto parsed = Document::from_json(hurt);
      ASSERT_TRUE(parsed) << pointer;
      ProjectReader reader;
      const Project project = reader.read(*parsed);
      EXPECT_EQ(project.shots.size(), 1u);
      ++readable;
    }
  EXPECT_GT(readable, 50);
}

TEST(Base64, FollowsRfc4648) {  // test vectors of RFC 4648 section 10
  const std::pair<const char*, const char*> vectors[] = {{"", ""},
                                                         {"f", "Zg=="},
                                                         {"fo", "Zm8="},
                                                         {"foo", "Zm9v"},
                                                         {"foob", "Zm9vYg=="},
                                                         {"fooba", "Zm9vYmE="},
                                                         {"foobar", "Zm9vYmFy"}};
  for (const auto& [plain, coded] : vectors) {
    const std::vector<unsigned char> bytes(plain, plain + std::string(plain).size());
    EXPECT_EQ(base64_encoded(bytes), coded);
    EXPECT_EQ(base64_decoded(coded), bytes);
  }
  for (const char* bad : {"Z", "Zg=", "Zg===", "Z===", "Zh==", "Zm9v!A==", "=Zg="})
    EXPECT_FALSE(base64_decoded(bad)) << bad;
}

}  // namespace
}  // namespace cinnabar
