// What stands round a project's file: logs left behind, folders that may not be written, objects of others, gaps.
#include <SQLiteCpp/SQLiteCpp.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>

#include "cinnabar/project/store/store.h"
#include "private_folder.h"
#include "worlds.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

class StoreFiles : public testing::Test {
 protected:
  void SetUp() override {
    path_ = folder_.file("spot.cinnabar");
    ASSERT_TRUE(Store::create(path_, *Document::from_json(worlds::bare())));
  }
  static void name(Store& store, const std::string& name) {
    const auto next = with_value(store.document(), "/project/name", name);
    const auto kept = store.apply(edit_between(store.document(), *next, "Named " + name));
    ASSERT_TRUE(kept) << kept.error().text();
  }
  static std::string name_in(const std::string& path) {
    const auto read = read_document(path);
    return read ? value_at(*read, "/project/name")->get<std::string>() : read.error().text();
  }
  void sql(const std::string& statement) {
    SQLite::Database db(path_, SQLite::OPEN_READWRITE);
    db.exec(statement);
  }
  /// A writer that dies without closing; its log stays beside the file.
  void killed_writer(const std::string& named) {
    const pid_t child = ::fork();
    if (child == 0) {
      auto store = Store::open(path_, Access::write);
      name(**store, named);
      ::kill(::getpid(), SIGKILL);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
  }
  /// As if killed half-way through a change of the file itself: a rollback journal that is still to be played
  /// back.
  void leave_journal() {
    const std::string whole = bytes_of(path_);
    {
      SQLite::Database db(path_, SQLite::OPEN_READWRITE);
      db.exec("PRAGMA journal_mode=DELETE");
      db.exec("PRAGMA cache_size=1");
      db.exec("PRAGMA cache_spill=1");
      db.exec("BEGIN IMMEDIATE");
      db.exec("UPDATE singles SET body = '\"half-way\"'");
      for (int k = 0; k < 40; ++k)
        db.exec("INSERT INTO kept_blobs (bytes) VALUES (randomblob(20000))");  // spills into the file
      fs::copy_file(path_, folder_.file("torn"));
      fs::copy_file(path_ + "-journal", folder_.file("torn-journal"));
      db.exec("ROLLBACK");
    }
    fs::rename(folder_.file("torn"), path_);
    fs::rename(folder_.file("torn-journal"), path_ + "-journal");
    ASSERT_NE(bytes_of(path_), whole);
    ASSERT_GT(fs::file_size(path_ + "-journal"), 512u);
  }
  /// Runs as somebody who may not do everything.
  template <class F>
  static int as_nobody(F act) {
    const pid_t child = ::fork();
    if (child == 0) {
      if (::geteuid() == 0 && (::setgid(65534) != 0 || ::setuid(65534) != 0)) ::_exit(99);
      ::_exit(act());
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    return WEXITSTATUS(status);
  }
  void folder_may_not_be_written() {
    for (const auto& entry : fs::directory_iterator(folder_.path()))
      fs::permissions(entry.path(), fs::perms::owner_read | fs::perms::group_read | fs::perms::others_read);
    ::chmod(folder_.path().c_str(), 0555);
  }
  void TearDown() override { ::chmod(folder_.path().c_str(), 0755); }
  FolderOfItsOwn folder_;
  std::string path_;
};

TEST_F(StoreFiles, AReaderRecoversWhatAKilledWriterLeft) {
  killed_writer("Kept");
  ASSERT_TRUE(fs::exists(path_ + "-wal"));
  EXPECT_EQ(name_in(path_), "Kept");
  leave_journal();
  EXPECT_EQ(name_in(path_), "Kept") << "the journal is played back by whoever comes first";
  auto store = Store::open(path_, Access::write);
  ASSERT_TRUE(store) << store.error().text();
  EXPECT_EQ(*value_at((*store)->document(), "/project/name"), "Kept");
}

TEST_F(StoreFiles, AReaderRecoversWhereItMayNotWrite) {
  killed_writer("Kept");
  folder_may_not_be_written();
  EXPECT_EQ(as_nobody([&] { return name_in(path_) == "Kept" ? 7 : 1; }), 7) << "a log is left over";
  ::chmod(folder_.path().c_str(), 0755);
  fs::permissions(path_, fs::perms::owner_all);
  EXPECT_EQ(name_in(path_), "Kept");
  leave_journal();
  folder_may_not_be_written();
  EXPECT_EQ(as_nobody([&] { return name_in(path_) == "Kept" ? 7 : 1; }), 7) << "a journal is left over";
  EXPECT_EQ(folder_.entries(), 2u) << "and both stay as they were";
}

TEST_F(StoreFiles, AWriterIsToldThatTheFolderMayNotBeWritten) {
  ::chmod(folder_.path().c_str(), 0555);
  ::chmod(path_.c_str(), 0666);
  EXPECT_EQ(as_nobody([&] {
              const auto store = Store::open(path_, Access::write);
              if (store || store.error().cause != Cause::unwritable) return 1;
              return store.error().text().find("folder") != std::string::npos &&
                             store.error().fault == Fault::output
                         ? 7
                         : 2;
            }),
            7);
  ::chmod(path_.c_str(), 0444);
  EXPECT_EQ(as_nobody([&] {
              const auto store = Store::open(path_, Access::write);
              return !store && store.error().cause == Cause::unwritable ? 7 : 1;
            }),
            7);
  EXPECT_EQ(as_nobody([&] { return name_in(path_) == "Test" ? 7 : 1; }), 7) << "it can still be read";
}

struct ForeignRow {
  const char *what, *statement, *told;
};
class Foreign : public StoreFiles, public testing::WithParamInterface<ForeignRow> {};
TEST_P(Foreign, ObjectsAreRefusedBeforeTheyRun) {
  for (const std::string& statement : {std::string(GetParam().statement)}) sql(statement);
  for (const Access access : {Access::read, Access::write}) {
    const auto store = Store::open(path_, access);
    ASSERT_FALSE(store) << GetParam().what;
    EXPECT_EQ(store.error().cause, Cause::foreign);
    EXPECT_EQ(store.error().fault, Fault::input);
    EXPECT_NE(store.error().text().find(GetParam().told), std::string::npos) << store.error().text();
  }
  std::vector<std::string> lost;
  EXPECT_FALSE(Store::salvage(path_, lost));
}
INSTANTIATE_TEST_SUITE_P(
    Objects, Foreign,
    testing::Values(
        ForeignRow{
            "an endless view in place of a table",
            "DROP TABLE shots; CREATE VIEW shots AS WITH RECURSIVE n(body, id, place) AS (SELECT '{}', 'x', 0 "
            "UNION ALL SELECT body, id, place FROM n) SELECT * FROM n",
            "view \"shots\""},
        ForeignRow{"a trigger", "CREATE TRIGGER grows AFTER INSERT ON history BEGIN DELETE FROM takes; END",
                   "trigger \"grows\""},
        ForeignRow{"another table", "CREATE TABLE extra (a)", "table \"extra\""},
        ForeignRow{"another index", "CREATE INDEX slow ON takes (body)", "index \"slow\""},
        ForeignRow{
            "a table of other columns",
            "DROP TABLE takes; CREATE TABLE takes (id TEXT PRIMARY KEY, place INTEGER, body TEXT AS (hex(id)))",
            "table \"takes\""}));

TEST_F(StoreFiles, NamesThatMeanSomethingToSqliteMeanNothingHere) {
  const fs::path before = fs::current_path();
  fs::current_path(folder_.path());
  EXPECT_FALSE(Store::open(":memory:", Access::write));
  EXPECT_FALSE(Store::open("", Access::read));
  EXPECT_FALSE(Store::open("file:spot.cinnabar?mode=memory", Access::read));
  EXPECT_TRUE(Store::create(":memory:", *Document::from_json(worlds::bare())));
  EXPECT_TRUE(fs::exists(folder_.file(":memory:"))) << "a file of that name";
  EXPECT_EQ(name_in(":memory:"), "Test");
  fs::current_path(before);
}

TEST_F(StoreFiles, OnlyRegularFilesAreOpened) {
  ASSERT_EQ(::mkfifo(folder_.file("pipe").c_str(), 0600), 0);
  for (const std::string& other : {folder_.file("pipe"), std::string("/dev/zero"), folder_.path().string()})
    for (const Access access : {Access::read, Access::write}) {
      const auto store = Store::open(other, access);
      ASSERT_FALSE(store) << other;
      EXPECT_EQ(store.error().fault, Fault::input);
    }
}

TEST_F(StoreFiles, AMissingStepOfTheHistoryIsSaidAndCostsNothingElse) {
  {
    auto store = Store::open(path_, Access::write);
    for (const char* n : {"One", "Two", "Three"}) name(**store, n);
  }
  sql("DELETE FROM history WHERE seq = 2");
  {
    auto store = Store::open(path_, Access::write);
    ASSERT_TRUE(store);
    ASSERT_TRUE((*store)->undo());
    const auto gap = (*store)->undo();
    ASSERT_FALSE(gap);
    EXPECT_NE(gap.error().text().find("gap in its history"), std::string::npos) << gap.error().text();
    EXPECT_EQ(gap.error().text().find("make room"), std::string::npos);
    EXPECT_EQ((*store)->undo_title(), "");
    EXPECT_EQ(*value_at((*store)->document(), "/project/name"), "Two");
    name(**store, "Four");
    ASSERT_TRUE((*store)->undo());
    EXPECT_EQ(*value_at((*store)->document(), "/project/name"), "Two") << "the new step can be taken back";
    ASSERT_TRUE((*store)->redo());
  }
  sql("DELETE FROM state");
  auto store = Store::open(path_, Access::write);
  ASSERT_TRUE(store);
  name(**store, "Five");
  ASSERT_TRUE((*store)->undo());
  EXPECT_EQ(*value_at((*store)->document(), "/project/name"), "Four");
}

TEST_F(StoreFiles, ANameThatIsNoTextIsRefusedAndOneInTheFileIsShown) {
  {
    auto store = Store::open(path_, Access::write);
    EXPECT_FALSE((*store)->keep_version("caf\xE9"));
    ASSERT_TRUE((*store)->keep_version("fine"));
  }
  sql("UPDATE versions SET name = CAST(x'636166E9' AS TEXT)");
  const auto store = Store::open(path_, Access::read);
  const auto versions = (*store)->versions();
  ASSERT_TRUE(versions);
  EXPECT_EQ((*versions)[0].name, "caf\xEF\xBF\xBD");
}

TEST_F(StoreFiles, ATornTakeIsToldAndTheRestIsRead) {
  {
    auto store = Store::open(path_, Access::write);
    Document next = (*store)->document();
    for (int k = 1; k <= 3; ++k)
      next.lists["takes"].push_back(std::make_shared<const Json>(
          Json{{"id", "t" + std::to_string(k)}, {"shot", "s1"}, {"number", k}, {"kept", true}}));
    ASSERT_TRUE((*store)->apply(edit_between((*store)->document(), next, "Takes")));
  }
  sql("UPDATE takes SET body = '{\"id\":\"t2\",' WHERE id = 't2'");
  const auto document = read_document(path_);
  ASSERT_TRUE(document);
  ProjectReader reader;
  const Project project = reader.read(*document);
  ASSERT_EQ(project.takes.size(), 3u);
  EXPECT_EQ(project.takes[2]->number, 3);
  ASSERT_EQ(project.unreadable.size(), 1u);
  EXPECT_EQ(project.unreadable[0], "1 take of the log cannot be read");
  EXPECT_FALSE(validate(*document).empty());
}

TEST_F(StoreFiles, WhatIsMadeIsThereWholeOrNotAtAll) {
  const std::string other = folder_.file("new.cinnabar");
  const pid_t child = ::fork();
  if (child == 0) {  // is killed somewhere in the making, again and again
    for (;;) {
      ::unlink(other.c_str());
      Document big = *Document::from_json(worlds::bare());
      for (int k = 0; k < 500; ++k)
        big.lists["takes"].push_back(std::make_shared<const Json>(
            Json{{"id", "t" + std::to_string(k)}, {"shot", "s1"}, {"number", k + 1}, {"kept", true}}));
      (void)Store::create(other, big);
    }
  }
  for (int k = 0; k < 40; ++k) {
    std::error_code error;
    if (fs::exists(other, error) && !is_empty(fs::path(other), error) && !error) {
      const auto read = read_document(other);
      if (read) {
        EXPECT_EQ(read->list("takes").size(), 500u);
      }
    }
  }
  ::kill(child, SIGKILL);
  int status = 0;
  ::waitpid(child, &status, 0);
  if (fs::exists(other)) {
    EXPECT_EQ(read_document(other)->list("takes").size(), 500u);
  }
}

}  // namespace
}  // namespace cinnabar
