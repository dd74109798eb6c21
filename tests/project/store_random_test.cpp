// The store against a plain list of documents: random edits, undo, redo and restarts.
#include <unistd.h>

#include <filesystem>
#include <random>

#include "cinnabar/project/store/store.h"
#include "private_folder.h"
#include "worlds.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

class RandomHistory : public testing::TestWithParam<unsigned> {};
TEST_P(RandomHistory, IsThatOfAListOfDocuments) {
  const FolderOfItsOwn folder;
  const std::string path = folder.file("history.cinnabar");
  std::mt19937 random(GetParam());
  auto store = std::move(*Store::create(path, *Document::from_json(worlds::bare())));
  std::vector<Json> history{worlds::bare()};
  std::size_t now = 0;
  for (int step = 0; step < 120; ++step) {
    switch (random() % 6) {
      case 0:
        ASSERT_TRUE(store->undo());
        now = now > 0 ? now - 1 : 0;
        break;
      case 1:
        ASSERT_TRUE(store->redo());
        now = std::min(now + 1, history.size() - 1);
        break;
      case 2:
        store.reset();
        store = std::move(*Store::open(path, Access::write));
        break;
      default: {
        Document next = store->document();
        if (random() % 3 == 0) {
          Json shot = *next.lists["shots"][0];
          shot["id"] = "n" + std::to_string(step);
          auto& shots = next.lists["shots"];
          shots.insert(shots.begin() + static_cast<std::ptrdiff_t>(random() % (shots.size() + 1)),
                       std::make_shared<const Json>(shot));
        } else if (random() % 3 == 0 && next.lists["shots"].size() > 1) {
          next.lists["shots"].pop_back();
        } else {
          next = *with_value(next, "/project/notes", "step " + std::to_string(step));
        }
        const Edit edit = edit_between(store->document(), next, "step");
        ASSERT_TRUE(store->apply(edit));
        if (edit.changes.empty()) break;
        history.resize(now + 1);
        history.push_back(next.to_json());
        ++now;
      }
    }
    ASSERT_EQ(store->document().to_json(), history[now]) << step;
    EXPECT_EQ(store->undo_title().empty(), now == 0) << step;
    EXPECT_EQ(store->redo_title().empty(), now + 1 == history.size()) << step;
  }
  store.reset();
  EXPECT_EQ(read_document(path)->to_json(), history[now]);
}
INSTANTIATE_TEST_SUITE_P(Seeds, RandomHistory, testing::Range(1u, 7u));

}  // namespace
}  // namespace cinnabar
