// What stands round a project's database: the writer's lock, the layout of its tables, where it can be read from,
// and what its failures mean in words. For the store only.
#pragma once
#include <SQLiteCpp/SQLiteCpp.h>

#include <memory>
#include <optional>
#include <string>

#include "cinnabar/base/result.h"

namespace cinnabar {

inline constexpr int store_version = 2;  // 2: pictures of kept versions are stored once
/// Statements that make the tables of a new project.
extern const char* const store_schema;
inline constexpr const char* kept_blobs_table =
    "CREATE TABLE kept_blobs (id INTEGER PRIMARY KEY, bytes BLOB NOT NULL)";

/// Advisory lock on the file itself; the kernel drops it when the process ends.
class WriterLock {
 public:
  explicit WriterLock(const std::string& path);
  WriterLock(const WriterLock&) = delete;
  WriterLock& operator=(const WriterLock&) = delete;
  ~WriterLock();
  [[nodiscard]] bool held() const { return held_; }
  [[nodiscard]] bool opened() const { return fd_ >= 0; }
  /// Where the locked file is now; empty when it is gone.
  [[nodiscard]] std::string place() const;
  [[nodiscard]] bool is_at(const std::string& path) const;

 private:
  int fd_;
  bool held_ = false;
};

/// A folder of its own that goes with it.
class PrivateFolder {
 public:
  [[nodiscard]] static Expected<std::shared_ptr<PrivateFolder>> make();
  explicit PrivateFolder(std::string path) : path_(std::move(path)) {}
  PrivateFolder(const PrivateFolder&) = delete;
  PrivateFolder& operator=(const PrivateFolder&) = delete;
  ~PrivateFolder();
  [[nodiscard]] const std::string& path() const { return path_; }

 private:
  std::string path_;
};

/// Where a project is read from. A log that a stopped writer left behind is folded in by SQLite itself where file
/// and folder may be written, and in a copy of its own where they may not.
struct ReadingPlace {
  std::string path;
  int flags;
  std::shared_ptr<PrivateFolder> copy;
};
[[nodiscard]] Expected<ReadingPlace> reading_place(const std::string& path);

/// A regular file that begins as an SQLite database does; else what it is instead.
[[nodiscard]] Expected<void> check_database_file(const std::string& path);

/// The name as SQLite is to see it: absolute, so that no word or address in it means anything to SQLite.
[[nodiscard]] std::string database_name(const std::string& path);

/// Before anything of a foreign file is trusted: bounded lengths, no schema that runs by itself.
void guard(SQLite::Database& db);
/// Whose the file is, of which layout, and whether it holds only what this program makes; nothing when all is
/// well. Reads no table.
[[nodiscard]] std::optional<Error> foreign(SQLite::Database& db, const std::string& path);
/// The last part of it alone: a table, index, view or trigger that is not of this program.
[[nodiscard]] std::optional<Error> foreign_object(SQLite::Database& db, const std::string& path);

[[nodiscard]] tl::unexpected<Error> damaged(const std::string& path, const std::string& why);
/// What a failure of SQLite means for whoever wanted to read, or to write.
enum class Doing { reading, writing };
[[nodiscard]] tl::unexpected<Error> told(const std::string& path, const SQLite::Exception& e, Doing doing);

}  // namespace cinnabar
