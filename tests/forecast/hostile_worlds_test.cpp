// Valid but strange documents: whatever validation lets through can be staged, drawn, metered and judged.
#include "cinnabar/forecast/forecast.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Json spinning_glass() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "glass"}, {"ior", 1.5}}, true);
  doc["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 0.8}, {"material", {{"kind", "gloss"}}}};
  doc["setups"][0]["backdrop"] = {
      {"kind", "sweep"}, {"distance", 1.0}, {"width", 2.0}, {"height", 1.5}, {"radius", 0.3}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.6}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, 0}, {1, 90}}}}});
  doc["shots"][0]["play"] = {{0, 0.5}};
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 1}, {"for", 0.5}}}, {"slow", 2.0}};
  return doc;
}

/// False where no shot is left to judge.
bool expect_judged(const Json& doc, const std::string& what) {
  SCOPED_TRACE(what);
  static const Forecaster forecaster(MeasureQuality{16, 1, 4, 2});
  ProjectReader reader;
  const Project project = reader.read(*Document::from_json(doc));
  if (project.shots.empty()) return false;
  for (const Level& l : forecaster.levels(project, 0)) {
    EXPECT_TRUE(!l.value || std::isfinite(*l.value)) << l.id << " " << l.formula;
    EXPECT_EQ(l.state == State::unknown, !l.value) << l.id;
    EXPECT_EQ(l.sentence.find("nan"), std::string::npos) << l.id << " " << l.sentence;
    EXPECT_EQ(l.formula.find("nan"), std::string::npos) << l.id << " " << l.formula;
  }
  return true;
}

// Own behaviour.
TEST(StrangeWorlds, AnyValidValueAnywhereIsJudgedWithoutFail) {
  const Json doc = spinning_glass();
  const Json flat = doc.flatten();
  const Json poisons[] = {0, 1, -1, 1e-6, 1e4, -1e4, 1e5, true, "", Json::array(), Json::object()};
  int tried = 0;
  for (const auto& [pointer, value] : flat.items()) {
    for (const Json& poison : poisons) {
      Json hurt = doc;
      hurt[Json::json_pointer(pointer)] = poison;
      if (!validate(hurt).empty()) continue;
      if (expect_judged(hurt, pointer + " = " + poison.dump())) ++tried;
    }
  }
  EXPECT_GT(tried, 200);
}

// Own behaviour.
TEST(StrangeWorlds, AnyPartLeftOutIsJudgedWithoutFail) {
  const Json doc = spinning_glass();
  std::vector<std::string> pointers;
  const std::function<void(const Json&, const std::string&)> walk = [&](const Json& j, const std::string& at) {
    if (!at.empty()) pointers.push_back(at);
    if (j.is_object()) {
      for (const auto& [key, value] : j.items()) walk(value, at + "/" + key);
    }
    if (j.is_array()) {
      for (std::size_t i = 0; i < j.size(); ++i) walk(j[i], at + "/" + std::to_string(i));
    }
  };
  walk(doc, "");
  int tried = 0;
  for (const std::string& pointer : pointers) {
    Json less = doc;
    const Json::json_pointer p(pointer);
    Json& parent = less[p.parent_pointer()];
    if (parent.is_object())
      parent.erase(p.back());
    else
      parent.erase(std::stoul(p.back()));
    if (!validate(less).empty()) continue;
    if (expect_judged(less, "without " + pointer)) ++tried;
  }
  EXPECT_GT(tried, 40);
}

// Own behaviour.
TEST(StrangeWorlds, ThingsInOneAnotherAreNoTrouble) {
  Json doc = spinning_glass();
  doc["setups"][0]["lights"][0]["place"] = {0, 0.05, 0};  // inside the can, aimed at itself
  doc["setups"][0]["lights"][0]["aim"] = {0, 0.05, 0};
  doc["shots"][0]["camera"]["place"] = {0, 0.05, 0.01};
  doc["shots"][0]["camera"]["aim"] = {0, 0.05, 0.01};
  EXPECT_TRUE(expect_judged(doc, "camera and light in the can"));
  doc["shots"][0]["camera"]["place"] = {0, 2, 0};
  doc["shots"][0]["camera"]["aim"] = {0, 0, 0};
  EXPECT_TRUE(expect_judged(doc, "from straight above"));
  doc["setups"][0]["lights"].clear();
  doc["setups"][0]["backdrop"] = {{"kind", "none"}};
  EXPECT_TRUE(expect_judged(doc, "in the dark"));
}

}  // namespace
}  // namespace cinnabar
