// The store: nothing acknowledged is lost, whatever happens to the process or the file.
#include "cinnabar/project/store/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <sys/resource.h>
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
    std::string name = (fs::temp_directory_path() / "cinnabar-store-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
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

TEST_F(StoreTest, AnOlderFileIsBroughtUpToDateAfterACopyOfIt) {
  const auto tables = [](const std::string& path) {
    SQLite::Database db(path, SQLite::OPEN_READONLY);
    return std::pair{db.execAndGet("PRAGMA user_version").getInt(), db.tableExists("kept_blobs")};
  };
  Json doc = worlds::bare();
  doc["blobs"]["pic"] = {{"type", "image/png"}, {"data", base64_encoded({1, 2, 3, 4})}};
  {
    auto store = std::move(*Store::create(path_, *Document::from_json(doc)));
    set(*store, "/project/name", "Renamed");
  }
  {  // what version 1 looked like: pictures inside each kept version, no table for them
    SQLite::Database db(path_, SQLite::OPEN_READWRITE);
    db.exec("DROP TABLE kept_blobs");
    SQLite::Statement put(db, "INSERT INTO versions (name, at, document) VALUES ('first', 'then', ?)");
    put.bind(1, doc.dump());
    put.exec();
    db.exec("PRAGMA user_version=1");
  }
  {
    auto reading = Store::open(path_, Access::read);
    ASSERT_TRUE(reading) << reading.error().text();
    EXPECT_EQ((*reading)->version(0)->to_json(), doc) << "read as it is";
  }
  EXPECT_EQ(tables(path_).first, 1) << "reading changes nothing";
  const fs::path copy = folder_ / "spot.v1.cinnabar";
  EXPECT_FALSE(fs::exists(copy));
  {
    auto writing = Store::open(path_, Access::write);
    ASSERT_TRUE(writing) << writing.error().text();
    EXPECT_EQ((*writing)->version(0)->to_json(), doc);
    EXPECT_EQ((*writing)->document().to_json()["project"]["name"], "Renamed");
    ASSERT_TRUE((*writing)->keep_version("second"));
    ASSERT_TRUE((*writing)->keep_version("third"));
    EXPECT_EQ((*writing)->version(2)->to_json(), (*writing)->document().to_json());
    ASSERT_TRUE((*writing)->undo()) << "history went over with it";
    EXPECT_EQ((*writing)->document().to_json()["project"]["name"], "Test");
  }
  EXPECT_EQ(tables(path_), std::pair(2, true));
  EXPECT_EQ(tables(copy.string()), std::pair(1, false)) << "the copy is as the file was";
  SQLite::Database db(path_, SQLite::OPEN_READONLY);
  EXPECT_EQ(db.execAndGet("SELECT count(*) FROM kept_blobs").getInt(), 1) << "one picture, kept once";
}

TEST_F(StoreTest, AMovedFileIsStillWrittenAndADeletedOneIsSaid) {
  auto store = made();
  EXPECT_EQ(store->moved_to(), "");
  const std::string elsewhere = (folder_ / "elsewhere.cinnabar").string();
  fs::rename(path_, elsewhere);
  set(*store, "/project/name", "Moved");
  EXPECT_EQ(store->moved_to(), elsewhere);
  {
    // All of it is in the file itself, whatever happens to the log that stayed behind.
    const std::string copy = (folder_ / "copy.cinnabar").string();
    fs::copy_file(elsewhere, copy);
    const auto read = read_document(copy);
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(*value_at(*read, "/project/name"), "Moved");
  }
  fs::remove(elsewhere);
  const auto next = with_value(store->document(), "/project/name", "Gone");
  const auto kept = store->apply(edit_between(store->document(), *next, "x"));
  ASSERT_FALSE(kept);
  EXPECT_NE(kept.error().text().find("was deleted while it was open"), std::string::npos) << kept.error().text();
  EXPECT_EQ(*value_at(store->document(), "/project/name"), "Moved") << "what was kept still stands";
}

TEST_F(StoreTest, ADiskThatIsFullIsSaidAndLosesNothing) {
  auto store = made();
  struct rlimit before {};
  getrlimit(RLIMIT_FSIZE, &before);
  std::signal(SIGXFSZ, SIG_IGN);
  const rlimit full{65536, before.rlim_max};  // a file may grow no further, as on a full disk
  setrlimit(RLIMIT_FSIZE, &full);
  const auto next = with_value(store->document(), "/project/notes", std::string(4 << 20, 'x'));
  const auto kept = store->apply(edit_between(store->document(), *next, "much"));
  setrlimit(RLIMIT_FSIZE, &before);
  ASSERT_FALSE(kept);
  EXPECT_NE(kept.error().text().find("what was kept before is safe"), std::string::npos) << kept.error().text();
  set(*store, "/project/name", "Room again");
  store.reset();
  EXPECT_EQ(*value_at(*read_document(path_), "/project/name"), "Room again");
}

class Salvage : public StoreTest {
 protected:
  void SetUp() override {
    StoreTest::SetUp();
    Json doc = worlds::bare();
    worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}});
    for (int k = 2; k <= 40; ++k) {
      doc["shots"].push_back(doc["shots"][0]);
      doc["shots"].back()["id"] = "s" + std::to_string(k);
      doc["shots"].back()["notes"] = std::string(900, 'n');  // so that they fill pages of their own
    }
    ASSERT_TRUE(Store::create(path_, *Document::from_json(doc)));
  }
  void sql(const std::string& statement) {
    SQLite::Database db(path_, SQLite::OPEN_READWRITE);
    db.exec(statement);
  }
  std::vector<std::string> lost_;
};

TEST_F(Salvage, AWholeFileIsAllThere) {
  const auto store = Store::salvage(path_, lost_);
  ASSERT_TRUE(store) << store.error().text();
  EXPECT_TRUE(lost_.empty()) << lost_.front();
  EXPECT_TRUE((*store)->document().to_json() == read_document(path_)->to_json());
  EXPECT_FALSE((*store)->apply(edit_between((*store)->document(), empty_document("x"), "x")));
}

TEST_F(Salvage, RowsThatCannotBeReadAreLeftOutAndNamed) {
  sql("UPDATE shots SET body = '{\"id\": \"s3\", \"scr' WHERE id = 's3'");
  EXPECT_FALSE(Store::open(path_, Access::read)) << "it cannot be opened as it is";
  const auto store = Store::salvage(path_, lost_);
  ASSERT_TRUE(store) << store.error().text();
  EXPECT_EQ((*store)->document().list("shots").size(), 39u);
  ASSERT_EQ(lost_.size(), 1u);
  EXPECT_EQ(lost_[0], "one of the shots");
}

TEST_F(Salvage, WhatHungOnSomethingLostIsLeftOutToo) {
  sql("DELETE FROM products");
  const auto store = Store::salvage(path_, lost_);
  ASSERT_TRUE(store) << store.error().text();
  EXPECT_TRUE(validate((*store)->document()).empty());
  EXPECT_EQ((*store)->document().list("shots").size(), 40u) << "the shots stay, without the product";
  EXPECT_FALSE(lost_.empty());
  sql("DELETE FROM setups");
  const auto bare = Store::salvage(path_, lost_);
  ASSERT_TRUE(bare) << bare.error().text();
  EXPECT_TRUE(validate((*bare)->document()).empty());
}

TEST_F(Salvage, APageOfRubbishCostsOnlyItsRows) {
  // Overwrite pages one after the other: each time the rest is read, or the reason said; nothing crashes.
  const auto size = fs::file_size(path_);
  std::vector<char> whole(size);
  std::ifstream(path_, std::ios::binary).read(whole.data(), static_cast<std::streamsize>(size));
  int read = 0, with_most_shots = 0;
  for (std::size_t page = 1; page * 4096 < size; ++page) {
    std::vector<char> broken = whole;
    for (std::size_t i = page * 4096; i < std::min<std::size_t>(size, (page + 1) * 4096); ++i)
      broken[i] = static_cast<char>((i * 37 + page) % 251);
    std::ofstream(path_, std::ios::binary | std::ios::trunc)
        .write(broken.data(), static_cast<std::streamsize>(size));
    const auto store = Store::salvage(path_, lost_);
    if (!store) {
      EXPECT_FALSE(store.error().mend.empty());
      continue;
    }
    ++read;
    EXPECT_TRUE(validate((*store)->document()).empty());
    with_most_shots += (*store)->document().list("shots").size() >= 30 ? 1 : 0;
  }
  EXPECT_GT(read, 5);
  EXPECT_GT(with_most_shots, 5);
}

TEST_F(Salvage, WhatIsNoProjectIsRefused) {
  std::ofstream(path_, std::ios::trunc) << "nothing of the kind";
  EXPECT_FALSE(Store::salvage(path_, lost_));
  EXPECT_FALSE(Store::salvage((folder_ / "absent").string(), lost_));
}

}  // namespace
}  // namespace cinnabar
