// Whole files in and out: what was whole stays whole.
#include "cinnabar/base/files.h"

#include <fcntl.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>

#include "private_folder.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

/// Runs as somebody who may not do everything; the answer of `act`, or 99 where it could not be asked.
template <class F>
int as_nobody(F act) {
  const pid_t child = ::fork();
  if (child == 0) {
    if (::geteuid() == 0 && (::setgid(65534) != 0 || ::setuid(65534) != 0)) ::_exit(99);
    ::_exit(act());
  }
  int status = 0;
  ::waitpid(child, &status, 0);
  return WEXITSTATUS(status);
}

TEST(WriteFile, WritesWholeAndLeavesNothingBeside) {
  const FolderOfItsOwn folder;
  const std::string at = folder.file("table.csv");
  ASSERT_TRUE(write_file(at, "first"));
  ASSERT_TRUE(write_file(at, std::string("sec\0ond", 7)));
  EXPECT_EQ(bytes_of(at), std::string("sec\0ond", 7));
  EXPECT_EQ(folder.entries(), 1u);
}

TEST(WriteFile, KeepsTheModeOfTheFileAndFollowsALink) {
  const FolderOfItsOwn folder;
  const std::string at = folder.written("real.csv", "old"), link = folder.file("link.csv");
  fs::permissions(at, fs::perms::owner_read | fs::perms::owner_write);
  fs::create_symlink("real.csv", link);
  ASSERT_TRUE(write_file(link, "new"));
  EXPECT_TRUE(fs::is_symlink(link));
  EXPECT_EQ(bytes_of(at), "new");
  EXPECT_EQ(fs::status(at).permissions(), fs::perms::owner_read | fs::perms::owner_write);
  fs::create_symlink("not there yet.csv", folder.file("ahead.csv"));
  ASSERT_TRUE(write_file(folder.file("ahead.csv"), "made"));
  EXPECT_EQ(bytes_of(folder.file("not there yet.csv")), "made");
}

TEST(WriteFile, LeavesTheOldFileWhereTheDiskIsFull) {
  const FolderOfItsOwn folder;
  const std::string at = folder.written("table.csv", "whole");
  struct rlimit before {};
  getrlimit(RLIMIT_FSIZE, &before);
  std::signal(SIGXFSZ, SIG_IGN);
  const rlimit full{4096, before.rlim_max};  // a file may grow no further, as on a full disk
  setrlimit(RLIMIT_FSIZE, &full);
  const auto written = write_file(at, std::string(1 << 20, 'x'));
  setrlimit(RLIMIT_FSIZE, &before);
  ASSERT_FALSE(written);
  EXPECT_EQ(written.error().fault, Fault::output);
  EXPECT_NE(written.error().text().find("what was there is as it was"), std::string::npos);
  EXPECT_EQ(bytes_of(at), "whole");
  EXPECT_EQ(folder.entries(), 1u) << "and nothing half-written lies beside it";
  const auto device = write_file("/dev/full", "x");
  ASSERT_FALSE(device);
  EXPECT_NE(device.error().text().find("make room"), std::string::npos) << device.error().text();
}

TEST(WriteFile, NeverTakesThePlaceOfAProjectOrItsLog) {
  const FolderOfItsOwn folder;
  std::string head("SQLite format 3\0", 16);
  head.resize(100, '\0');
  head.replace(68, 4, "CINN");
  const std::string project = folder.written("p.cinnabar", head);
  EXPECT_TRUE(is_project_file(project));
  for (const char* end : {"", "-wal", "-shm", "-journal"}) {
    const auto written = write_file(project + end, "a,table\r\n");
    ASSERT_FALSE(written) << end;
    EXPECT_NE(written.error().text().find("nothing was written"), std::string::npos) << written.error().text();
  }
  fs::create_symlink("p.cinnabar", folder.file("link.csv"));
  EXPECT_FALSE(write_file(folder.file("link.csv"), "x")) << "nor through a link";
  EXPECT_EQ(bytes_of(project), head);
  EXPECT_EQ(folder.entries(), 2u);
  EXPECT_TRUE(write_file(folder.file("other-journal"), "x")) << "a name like a log's where no project is";
}

TEST(WriteFile, RefusesWhatIsNoFileWithoutWaiting) {
  const FolderOfItsOwn folder;
  EXPECT_FALSE(write_file(folder.path().string(), "x"));
  EXPECT_FALSE(write_file(folder.file("no/such/folder.csv"), "x"));
  ASSERT_EQ(::mkfifo(folder.file("pipe").c_str(), 0600), 0);
  EXPECT_FALSE(write_file(folder.file("pipe"), "x")) << "nobody reads there";
  ASSERT_TRUE(write_file("/dev/null", "x"));
}

TEST(WriteFile, SaysWhatAFolderThatMayNotBeWrittenMeans) {
  const FolderOfItsOwn folder;
  const std::string at = folder.written("table.csv", "whole");
  fs::permissions(folder.path(),
                  fs::perms::all & ~fs::perms::owner_write & ~fs::perms::group_write & ~fs::perms::others_write);
  fs::permissions(at, fs::perms::all);
  EXPECT_EQ(as_nobody([&] {
              const auto written = write_file(at, "x");
              return !written && written.error().text().find("permissions") != std::string::npos ? 7 : 1;
            }),
            7);
  fs::permissions(folder.path(), fs::perms::all);
  EXPECT_EQ(bytes_of(at), "whole");
}

TEST(FileBeside, KeepsOnlyWhatIsKept) {
  const FolderOfItsOwn folder;
  const std::string at = folder.written("picture.png", "old");
  {
    const auto beside = FileBeside::at(at);
    ASSERT_TRUE(beside);
    std::ofstream(beside->beside()) << "half";
  }
  EXPECT_EQ(bytes_of(at), "old");
  EXPECT_EQ(folder.entries(), 1u);
  auto fresh = FileBeside::at(at);
  ASSERT_TRUE(fresh);
  const auto kept = fresh->keep_new();
  ASSERT_FALSE(kept) << "the name is taken";
  EXPECT_EQ(bytes_of(at), "old");
}

TEST(ReadFile, TakesRegularFilesOfABoundedSizeOnly) {
  const FolderOfItsOwn folder;
  EXPECT_EQ(*read_file(folder.written("a", "text")), "text");
  EXPECT_EQ(*read_file(folder.written("empty", "")), "");
  ASSERT_EQ(::mkfifo(folder.file("pipe").c_str(), 0600), 0);
  for (const std::string& other : {std::string("/dev/zero"), folder.file("pipe"), folder.path().string(),
                                   folder.file("absent"), std::string(":memory:"), std::string()}) {
    const auto read = read_file(other);
    ASSERT_FALSE(read) << other;
    EXPECT_EQ(read.error().fault, Fault::input);
  }
  const auto large = read_file(folder.written("large", std::string(3 << 20, 'x')), 1 << 20);
  ASSERT_FALSE(large);
  EXPECT_NE(large.error().text().find("larger than 1 MB"), std::string::npos) << large.error().text();
  // A file that says 1 TB and takes no room: refused before memory is taken.
  const std::string sparse = folder.written("sparse", "");
  ASSERT_EQ(::truncate(sparse.c_str(), off_t{1} << 40), 0);
  EXPECT_FALSE(read_file(sparse));
}

TEST(SameFile, SeesThroughLinks) {
  const FolderOfItsOwn folder;
  const std::string at = folder.written("a", "x");
  fs::create_symlink("a", folder.file("b"));
  fs::create_hard_link(at, folder.file("c"));
  EXPECT_TRUE(same_file(at, folder.file("b")));
  EXPECT_TRUE(same_file(at, folder.file("c")));
  EXPECT_FALSE(same_file(at, folder.written("d", "x")));
  EXPECT_FALSE(same_file(at, folder.file("absent")));
}

}  // namespace
}  // namespace cinnabar
