// What differs between two documents, in words; and versions kept in the file.
#include "cinnabar/project/document/differences.h"

#include <algorithm>
#include <filesystem>

#include "cinnabar/project/store/store.h"
#include "private_folder.h"
#include "worlds.h"

namespace cinnabar {
namespace {

using Lines = std::vector<std::string>;

Lines after_change(const std::function<void(Json&)>& change) {
  Json before = worlds::bare();
  worlds::add_cylinder(before, {{"kind", "matte"}});
  before["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 1, 0}, {0, 0, 0}, 0.5, 0.5, 3000));
  Json after = before;
  change(after);
  return differences_in_words(*Document::from_json(before), *Document::from_json(after));
}

TEST(Differences, NameTheThingTheMemberAndBothValues) {
  EXPECT_EQ(after_change([](Json& d) { d["shots"][0]["camera"]["iso"] = 800; }),
            Lines{"Shot One: camera/iso 800, was 400"});
  EXPECT_EQ(after_change([](Json& d) { d["project"]["name"] = "Other"; }), Lines{"Project: name Other, was Test"});
  EXPECT_EQ(after_change([](Json& d) { d["kit"]["lenses"][0]["close_focus"] = 0.3; }),
            Lines{"Lens fifty: close_focus 0.3, was not there"});
  EXPECT_EQ(after_change([](Json& d) { d["project"].erase("mains_hz"); }),
            Lines{"Project: mains_hz taken out, was 50"});
}

TEST(Differences, JoinItemsOfListsByTheirIds) {
  EXPECT_EQ(after_change([](Json& d) { d["setups"][0]["lights"][0]["dimmer"] = 0.5; }),
            Lines{"Set-up Bench: lights/key/dimmer 0.5, was not there"});
  EXPECT_EQ(after_change([](Json& d) {
              d["setups"][0]["lights"].push_back(worlds::rectangle("rim", {0, 1, 0}, {0, 0, 0}, 0.5, 0.5, 3000));
            }),
            Lines{"Set-up Bench: lights/rim added"});
  EXPECT_EQ(after_change([](Json& d) { d["setups"][0]["lights"] = Json::array(); }),
            Lines{"Set-up Bench: lights/key taken away"});
}

TEST(Differences, TellWhatCameWentAndMoved) {
  const auto with_second = [](Json& d) {
    Json second = d["shots"][0];
    second["id"] = "s2", second["name"] = "Two";
    d["shots"].push_back(second);
  };
  EXPECT_EQ(after_change(with_second), Lines{"Shot Two: added"});
  Json before = worlds::bare(), after;
  with_second(before);
  after = before;
  std::swap(after["shots"][0], after["shots"][1]);
  const Lines moved = differences_in_words(*Document::from_json(before), *Document::from_json(after));
  EXPECT_NE(std::find(moved.begin(), moved.end(), "Shot Two: number 1, was 2"), moved.end());
}

TEST(Differences, OfEqualDocumentsAreNoneAndOfManyAreCutShort) {
  EXPECT_TRUE(after_change([](Json&) {}).empty());
  Json before = worlds::bare(), after = before;
  for (int k = 0; k < 500; ++k) after["project"]["own" + std::to_string(k)] = k;
  const Lines lines = differences_in_words(*Document::from_json(before), *Document::from_json(after), 50);
  ASSERT_EQ(lines.size(), 50u);
  EXPECT_EQ(lines.back(), "and 451 more");
}

TEST(Versions, AreKeptListedAndReadBackExactly) {
  const FolderOfItsOwn folder;
  const std::string path = folder.file("versions.cinnabar");
  const Document first = *Document::from_json(worlds::bare());
  {
    auto store = Store::create(path, first);
    ASSERT_TRUE(store);
    EXPECT_FALSE((*store)->version(0)) << "none was kept yet";
    ASSERT_TRUE((*store)->keep_version("as briefed"));
    const Document next = *with_value(first, "/shots/0/camera/iso", 1600);
    ASSERT_TRUE((*store)->apply(edit_between(first, next, "ISO")));
    ASSERT_TRUE((*store)->keep_version("brighter"));
  }
  auto store = Store::open(path, Access::read);
  ASSERT_TRUE(store);
  const auto versions = (*store)->versions();
  ASSERT_EQ(versions->size(), 2u);
  EXPECT_EQ((*versions)[0].name, "as briefed");
  EXPECT_EQ((*store)->version(0)->to_json(), first.to_json());
  EXPECT_EQ(differences_in_words(*(*store)->version(0), *(*store)->version(1)),
            Lines{"Shot One: camera/iso 1600, was 400"});
  EXPECT_FALSE((*store)->version(2));
}

}  // namespace
}  // namespace cinnabar
