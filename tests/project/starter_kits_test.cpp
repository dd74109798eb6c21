// Starter kits: each is a whole, valid kit, and what is there already stays.
#include "cinnabar/project/making/starter_kits.h"

#include "worlds.h"

namespace cinnabar {
namespace {

TEST(StarterKit, EachIsValidAndCanRecord) {
  ASSERT_EQ(starter_kits().size(), 4u);
  for (const StarterKit& kit : starter_kits()) {
    const auto doc = with_starter_kit(empty_document("New"), kit.id);
    ASSERT_TRUE(doc.has_value()) << kit.id;
    EXPECT_TRUE(validate(doc->to_json()).empty()) << kit.id;
    ProjectReader reader;
    const Project project = reader.read(*doc);
    ASSERT_FALSE(project.cameras.empty());
    EXPECT_FALSE(project.lenses.empty());
    EXPECT_GE(project.cameras[0]->modes.size(), 3u);
    for (const auto& light : project.light_kits) {
      ASSERT_TRUE(light->output.has_value()) << light->id;
      EXPECT_GT(light->output->lumens, 100) << light->id;
    }
  }
  EXPECT_FALSE(with_starter_kit(empty_document("New"), "no such kit").has_value());
}

TEST(StarterKit, KeepsWhatIsThereAndAddsTheRest) {
  Json own = worlds::bare();
  own["kit"]["supports"][0]["load"] = 77;
  const auto doc = with_starter_kit(*Document::from_json(own), "three-lights");
  EXPECT_EQ(doc->find("kit/supports", "table")->at("load"), 77);
  EXPECT_NE(doc->find("kit/lights", "tube"), nullptr);
  EXPECT_NE(doc->find("kit/lights", "led"), nullptr);
  EXPECT_EQ(*with_starter_kit(*doc, "three-lights")->find("kit/lights", "tube"), *doc->find("kit/lights", "tube"));
}

TEST(NewKitItem, OfEveryListIsValidAndItsIdIsFresh) {
  Document doc = empty_document("New");
  for (const char* list : {"kit/cameras", "kit/lenses", "kit/lights", "kit/supports", "kit/media", "kit/batteries",
                           "kit/consumables", "kit/modifiers", "kit/cards", "kit/surfaces", "kit/backdrops"})
    for (int i = 0; i < 2; ++i) doc.lists[list].push_back(std::make_shared<const Json>(new_kit_item(doc, list)));
  EXPECT_TRUE(validate(doc.to_json()).empty());
}

}  // namespace
}  // namespace cinnabar
