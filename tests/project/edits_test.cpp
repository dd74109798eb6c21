// Edits between any two documents: they lead there and back, say what they do, and are nothing between equals.
#include <random>

#include "cinnabar/project/document/differences.h"
#include "cinnabar/project/document/edit.h"
#include "worlds.h"

namespace cinnabar {
namespace {

/// A document with some of its entities changed, added, moved and taken away.
Json stirred(Json doc, std::mt19937& random) {
  for (unsigned n = 1 + random() % 6; n > 0; --n) {
    const std::string fresh = "n" + std::to_string(random());
    switch (random() % 6) {
      case 0:
        doc["shots"][random() % doc["shots"].size()]["screen_time"] = 1.0 + random() % 50 / 10.0;
        break;
      case 1: {
        Json shot = doc["shots"][0];
        shot["id"] = fresh, shot["name"] = "Shot " + fresh;
        doc["shots"].insert(
            doc["shots"].begin() + static_cast<std::ptrdiff_t>(random() % (doc["shots"].size() + 1)), shot);
        break;
      }
      case 2:
        if (doc["shots"].size() > 1) doc["shots"].erase(random() % doc["shots"].size());
        break;
      case 3:
        std::swap(doc["shots"][0], doc["shots"][random() % doc["shots"].size()]);
        break;
      case 4:
        doc["bands"]["camera.iso"] = {{"low", nullptr}, {"high", 100 + random() % 900}};
        break;
      default:
        doc["kit"]["lenses"][0]["own field"] = fresh;
    }
  }
  return doc;
}

class RandomEdit : public testing::TestWithParam<unsigned> {};
TEST_P(RandomEdit, LeadsThereAndBack) {
  std::mt19937 random(GetParam());
  const Json before = stirred(worlds::bare(), random), after = stirred(before, random);
  const Document from = *Document::from_json(before), to = *Document::from_json(after);
  const Edit edit = edit_between(from, to, "stirred");
  EXPECT_EQ(applied(from, edit).to_json(), after);
  EXPECT_EQ(applied(to, edit, false).to_json(), before);
  EXPECT_EQ(edit.changes.empty(), before == after);
  EXPECT_EQ(differences_in_words(from, to).empty(), before == after);
  EXPECT_TRUE(edit_between(to, to, "").changes.empty());
}
INSTANTIATE_TEST_SUITE_P(Seeds, RandomEdit, testing::Range(1u, 41u));

}  // namespace
}  // namespace cinnabar
