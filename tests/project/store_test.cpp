// The store: nothing acknowledged is lost, whatever happens to the process or the file.
#include "cinnabar/project/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <filesystem>
#include <fstream>

#include "worlds.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

class StoreTest : public testing::Test {
 protected:
  void SetUp() override {
    folder_ = fs::temp_directory_path() / ("cinnabar-store-" + std::to_string(::getpid()) + "-" +
                                           testing::UnitTest::GetInstance()->current_test_info()->name());
    fs::create_directories(folder_);
    path_ = (folder_ / "spot.cinnabar").string();
  }
  void TearDown() override { fs::remove_all(folder_); }
  std::unique_ptr<Store> made() {
    auto store = Store::create(path_, *Document::from_json(worlds::bare()));
    EXPECT_TRUE(store) << store.error().text();
    return std::move(*store);
  }
  static void set(Store& store, const std::string& pointer, const Json& value) {
    const auto next = with_value(store.document(), pointer, value);
    ASSERT_TRUE(next);
    const auto kept = store.apply(edit_between(store.document(), *next, pointer));
    ASSERT_TRUE(kept) << kept.error().text();
  }
  fs::path folder_;
  std::string path_;
};

TEST_F(StoreTest, IsOneFileAfterACleanCloseAndReadsBackTheSame) {
  {
    auto store = made();
    set(*store, "/project/name", "Renamed");
  }
  EXPECT_EQ(std::distance(fs::directory_iterator(folder_), fs::directory_iterator()), 1);
  auto again = Store::open(path_, Access::read);
  ASSERT_TRUE(again) << again.error().text();
  Json expected = worlds::bare();
  expected["project"]["name"] = "Renamed";
  EXPECT_EQ((*again)->document().to_json(), expected);
}

TEST_F(StoreTest, UndoesAndRedoesAcrossRestarts) {
  {
    auto store = made();
    for (int k = 1; k <= 5; ++k) set(*store, "/shots/0/camera/iso", 100 * k);
  }
  {
    auto store = std::move(*Store::open(path_, Access::write));
    for (int k = 4; k >= 3; --k) {
      ASSERT_TRUE(store->undo());
      EXPECT_EQ(value_at(store->document(), "/shots/0/camera/iso"), std::optional<Json>(100 * k));
    }
    EXPECT_EQ(store->redo_title(), "/shots/0/camera/iso");
  }
  auto store = std::move(*Store::open(path_, Access::write));
  ASSERT_TRUE(store->redo());
  EXPECT_EQ(value_at(store->document(), "/shots/0/camera/iso"), std::optional<Json>(400));
  set(*store, "/shots/0/camera/iso", 1000);  // what was undone is forgotten
  EXPECT_EQ(store->redo_title(), "");
  for (int k = 0; k < 10; ++k) ASSERT_TRUE(store->undo());
  EXPECT_EQ(store->document().to_json(), worlds::bare());
  EXPECT_EQ(store->undo_title(), "");
}

TEST_F(StoreTest, RefusesASecondWriterWithAWordAndLetsReadersIn) {
  auto first = made();
  const auto second = Store::open(path_, Access::write);
  ASSERT_FALSE(second);
  EXPECT_NE(second.error().message.find("open for writing elsewhere"), std::string::npos);
  EXPECT_FALSE(second.error().mend.empty());
  set(*first, "/project/name", "Seen by readers");
  const auto reader = Store::open(path_, Access::read);
  ASSERT_TRUE(reader) << reader.error().text();
  EXPECT_EQ(value_at((*reader)->document(), "/project/name"), std::optional<Json>("Seen by readers"));
}

TEST_F(StoreTest, LeavesANewerFileUntouched) {
  made().reset();
  {
    SQLite::Database db(path_, SQLite::OPEN_READWRITE);
    db.exec("PRAGMA user_version=99");
  }
  const auto size = fs::file_size(path_);
  const auto when = fs::last_write_time(path_);
  for (const Access access : {Access::read, Access::write}) {
    const auto open = Store::open(path_, access);
    ASSERT_FALSE(open);
    EXPECT_NE(open.error().message.find("newer"), std::string::npos);
    EXPECT_EQ(open.error().fault, Fault::input);
  }
  EXPECT_EQ(fs::file_size(path_), size);
  EXPECT_EQ(fs::last_write_time(path_), when);
}

TEST_F(StoreTest, ReportsWhatIsNoProject) {
  const auto write = [&](const std::string& text) { std::ofstream(path_, std::ios::binary) << text; };
  EXPECT_EQ(Store::open(path_, Access::read).error().message, "is not there");
  write("");
  EXPECT_EQ(Store::open(path_, Access::read).error().message, "is empty");
  write("{\"format\": \"cinnabar-project\"}");
  EXPECT_EQ(Store::open(path_, Access::read).error().message, "is JSON, not a project file");
  write("some text that is nothing at all");
  EXPECT_EQ(Store::open(path_, Access::read).error().message, "is no Cinnabar project");
  fs::remove(path_);
  {
    SQLite::Database other(path_, SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    other.exec("CREATE TABLE t (x)");
  }
  EXPECT_EQ(Store::open(path_, Access::read).error().message, "is a database of another program");
  EXPECT_EQ(Store::open(folder_.string(), Access::read).error().message, "is a folder");
}

TEST_F(StoreTest, ReportsDamageAndNeverCrashes) {
  made().reset();
  std::ifstream in(path_, std::ios::binary);
  const std::string whole((std::istreambuf_iterator<char>(in)), {});
  in.close();
  const auto tried = [&](const std::string& bytes) {
    std::ofstream(path_, std::ios::binary | std::ios::trunc) << bytes;
    const auto store = Store::open(path_, Access::read);
    EXPECT_TRUE(store || store.error().fault == Fault::input);
  };
  for (std::size_t cut = 17; cut < whole.size(); cut += 997) tried(whole.substr(0, cut));
  for (std::size_t at = 16; at < whole.size(); at += 211) {
    std::string hurt = whole;
    for (std::size_t k = at; k < std::min(at + 64, hurt.size()); ++k) hurt[k] = static_cast<char>(0xA5);
    tried(hurt);
  }
}

TEST_F(StoreTest, LosesNothingAcknowledgedWhenKilledInMidEdit) {
  made().reset();
  long acknowledged = 0;
  for (int round = 0; round < 50; ++round) {
    int channel[2];
    ASSERT_EQ(::pipe(channel), 0);
    const pid_t child = ::fork();
    if (child == 0) {
      ::close(channel[0]);
      auto store = Store::open(path_, Access::write);
      if (!store) ::_exit(9);
      for (long k = acknowledged + 1;; ++k) {  // edits until killed, each acknowledged after it was kept
        const auto next = with_value((*store)->document(), "/project/notes", std::to_string(k));
        if (!next || !(*store)->apply(edit_between((*store)->document(), *next, "note"))) ::_exit(8);
        if (::write(channel[1], &k, sizeof k) != sizeof k) ::_exit(7);
      }
    }
    ::close(channel[1]);
    long k = 0;
    const int wanted = 1 + round % 5;
    for (int n = 0; n < wanted && ::read(channel[0], &k, sizeof k) == sizeof k; ++n) acknowledged = k;
    ::kill(child, SIGKILL);
    int status = 0;
    ::waitpid(child, &status, 0);
    ASSERT_TRUE(WIFSIGNALED(status)) << "the child left by itself: " << WEXITSTATUS(status);
    while (::read(channel[0], &k, sizeof k) == sizeof k) acknowledged = k;
    ::close(channel[0]);
    const auto store = Store::open(path_, Access::write);  // the writer's lock died with its process
    ASSERT_TRUE(store) << store.error().text();
    const long kept = std::stol(value_at((*store)->document(), "/project/notes")->get<std::string>());
    EXPECT_GE(kept, acknowledged);
    EXPECT_LE(kept, acknowledged + 1);
    acknowledged = kept;
  }
}

TEST_F(StoreTest, TellsWhatChangedBetweenTakesFromItsHistory) {
  auto store = made();
  const auto take = [&](const char* id) {
    set(*store, "/takes/-", Json{{"id", id}, {"shot", "s1"}, {"number", 1}});
  };
  take("t1");
  set(*store, "/shots/0/camera/iso", 800);
  set(*store, "/shots/0/camera/iso", 640);
  set(*store, "/project/notes", "aside");
  take("t2");
  set(*store, "/shots/0/camera/f_number", 8);
  const auto between = store->changes_between_takes("t1", "t2");
  ASSERT_TRUE(between && *between);
  ASSERT_EQ((*between)->size(), 2u);
  EXPECT_EQ((**between)[0].before->at("camera").at("iso"), 400);
  EXPECT_EQ((**between)[0].after->at("camera").at("iso"), 640);
  const auto since = store->changes_since_take("t2");
  ASSERT_TRUE(since && *since);
  EXPECT_EQ((**since)[0].after->at("camera").at("f_number"), 8);
  EXPECT_FALSE(*store->changes_between_takes("t1", "none"));
}

TEST_F(StoreTest, KeepsVersions) {
  auto store = made();
  ASSERT_TRUE(store->keep_version("before lunch"));
  ASSERT_EQ(store->versions()->size(), 1u);
  EXPECT_EQ((*store->versions())[0].name, "before lunch");
}

}  // namespace
}  // namespace cinnabar
