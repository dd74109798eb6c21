#include "cinnabar/project/store/store_file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sqlite3.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <array>
#include <filesystem>
#include <fstream>
#include <map>

#include "cinnabar/base/files.h"

namespace cinnabar {

namespace fs = std::filesystem;

const char* const store_schema = R"(
CREATE TABLE singles (key TEXT PRIMARY KEY, body TEXT NOT NULL);
CREATE TABLE lists (key TEXT PRIMARY KEY);
CREATE TABLE deliverables (id TEXT PRIMARY KEY, place INTEGER NOT NULL, body TEXT NOT NULL);
CREATE TABLE products (id TEXT PRIMARY KEY, place INTEGER NOT NULL, body TEXT NOT NULL);
CREATE TABLE setups (id TEXT PRIMARY KEY, place INTEGER NOT NULL, body TEXT NOT NULL);
CREATE TABLE shots (id TEXT PRIMARY KEY, place INTEGER NOT NULL, body TEXT NOT NULL);
CREATE TABLE takes (id TEXT PRIMARY KEY, place INTEGER NOT NULL, body TEXT NOT NULL);
CREATE TABLE others (list TEXT NOT NULL, id TEXT NOT NULL, place INTEGER NOT NULL, body TEXT NOT NULL,
                     PRIMARY KEY (list, id));
CREATE TABLE blobs (id TEXT PRIMARY KEY, fields TEXT NOT NULL, bytes BLOB NOT NULL);
CREATE TABLE history (seq INTEGER PRIMARY KEY, title TEXT NOT NULL, at TEXT NOT NULL);
CREATE TABLE changes (seq INTEGER NOT NULL REFERENCES history(seq) ON DELETE CASCADE, list TEXT NOT NULL,
                      id TEXT NOT NULL, before TEXT, after TEXT, place_before INTEGER, place_after INTEGER);
CREATE INDEX changes_by_seq ON changes (seq);
CREATE INDEX changes_by_entity ON changes (list, id);
CREATE TABLE state (name TEXT PRIMARY KEY, value INTEGER NOT NULL);
CREATE TABLE versions (id INTEGER PRIMARY KEY, name TEXT NOT NULL, at TEXT NOT NULL, document TEXT NOT NULL);
CREATE TABLE kept_blobs (id INTEGER PRIMARY KEY, bytes BLOB NOT NULL);
INSERT INTO state VALUES ('done', 0);
)";

namespace {

/// SQL without the room between its words.
std::string tight(std::string_view sql) {
  std::string out;
  for (const char c : sql)
    if (c != ' ' && c != '\n' && c != '\r' && c != '\t') out += c;
  return out;
}

/// What the schema makes, by name: its own statement without room.
std::map<std::string, std::string> own_objects() {
  std::map<std::string, std::string> objects;
  const std::string_view all = store_schema;
  for (std::size_t from = 0; from < all.size();) {
    const std::size_t to = std::min(all.find(';', from), all.size());
    const std::string_view statement = all.substr(from, to - from);
    from = to + 1;
    for (const std::string_view begins : {"CREATE TABLE ", "CREATE INDEX "})
      if (const auto at = statement.find(begins); at != std::string_view::npos) {
        const auto name = statement.substr(at + begins.size());
        objects[std::string(name.substr(0, name.find(' ')))] = tight(statement);
      }
  }
  return objects;
}

bool has_bytes(const std::string& path) {
  std::error_code error;
  return fs::is_regular_file(path, error) && fs::file_size(path, error) > 0 && !error;
}
std::string folder_of(const std::string& path) {
  const std::string folder = fs::path(path).parent_path().string();
  return folder.empty() ? "." : folder;
}
bool may_write(const std::string& path) {
  return ::access(path.c_str(), W_OK) == 0 && ::access(folder_of(path).c_str(), W_OK) == 0;
}
/// Written with a log beside it, as the database's own head says (SQLite's file format, 1.3.3).
bool keeps_a_log(const std::string& path) {
  std::array<char, 20> head{};
  std::ifstream file(path, std::ios::binary);
  return file.read(head.data(), head.size()) && head[18] == 2;
}

Expected<ReadingPlace> read_in_copy(const std::string& path) {
  const auto cannot = [&](const std::string& why) {
    return fail(path, "cannot be read where it is: a log is left beside it, and " + why,
                "copy the project with the files beside it to a folder that may be written, and open it there",
                Fault::input);
  };
  const int fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (fd < 0) return fail(path, "cannot be read", "check its permissions", Fault::input);
  // No writer may change the files while they are copied.
  const bool quiet = ::flock(fd, LOCK_SH | LOCK_NB) == 0;
  auto folder = quiet ? PrivateFolder::make() : Expected<std::shared_ptr<PrivateFolder>>(nullptr);
  std::string place;
  std::error_code error;
  if (folder && *folder) {
    place = (*folder)->path() + "/copy";
    for (const char* end : {"", "-wal", "-journal"})
      if (fs::exists(path + end, error) && !error) {
        fs::copy_file(path + end, place + end, error);
        ::chmod((place + end).c_str(), 0600);
      }
  }
  ::close(fd);
  if (!quiet) return ReadingPlace{database_name(path), SQLite::OPEN_READONLY, nullptr};  // the writer's log serves
  if (!folder) return tl::unexpected(folder.error());
  if (error) return cannot("it could not be copied (" + error.message() + ")");
  return ReadingPlace{place, SQLite::OPEN_READWRITE, *folder};
}

}  // namespace

WriterLock::WriterLock(const std::string& path) : fd_(::open(path.c_str(), O_RDWR | O_CLOEXEC | O_NONBLOCK)) {
  held_ = fd_ >= 0 && ::flock(fd_, LOCK_EX | LOCK_NB) == 0;
}
WriterLock::~WriterLock() {
  if (fd_ >= 0) ::close(fd_);
}
std::string WriterLock::place() const {
  struct stat own {};
  if (::fstat(fd_, &own) != 0 || own.st_nlink == 0) return {};
  std::error_code error;
  return fs::read_symlink("/proc/self/fd/" + std::to_string(fd_), error).string();
}
bool WriterLock::is_at(const std::string& path) const {
  struct stat own {
  }, there{};
  return ::fstat(fd_, &own) == 0 && ::stat(path.c_str(), &there) == 0 && own.st_ino == there.st_ino &&
         own.st_dev == there.st_dev;
}

Expected<std::shared_ptr<PrivateFolder>> PrivateFolder::make() {
  std::error_code error;
  std::string name = (fs::temp_directory_path(error) / "cinnabar-XXXXXX").string();
  if (error || !::mkdtemp(name.data()))
    return fail(name, "cannot be made", "make room in the folder for temporary files", Fault::output);
  return std::make_shared<PrivateFolder>(name);
}
PrivateFolder::~PrivateFolder() {
  std::error_code ignored;
  fs::remove_all(path_, ignored);
}

std::string database_name(const std::string& path) {
  std::error_code error;
  const fs::path whole = fs::absolute(path, error);
  return error ? "./" + path : whole.string();
}

Expected<ReadingPlace> reading_place(const std::string& path) {
  const bool left_over = has_bytes(path + "-journal") || has_bytes(path + "-wal");
  if (!left_over && !keeps_a_log(path)) return ReadingPlace{database_name(path), SQLite::OPEN_READONLY, nullptr};
  if (may_write(path)) return ReadingPlace{database_name(path), SQLite::OPEN_READWRITE, nullptr};
  return read_in_copy(path);
}

Expected<void> check_database_file(const std::string& path) {
  struct stat about {};
  if (::stat(path.c_str(), &about) != 0)
    return errno == EACCES ? fail(path, "cannot be read", "check its permissions", Fault::input)
                           : fail(path, "is not there", "check the name", Fault::input);
  if (S_ISDIR(about.st_mode)) return fail(path, "is a folder", "name a project file", Fault::input);
  if (!S_ISREG(about.st_mode)) return fail(path, "is no regular file", "name a project file", Fault::input);
  std::array<char, 4096> head{};
  std::ifstream file(path, std::ios::binary);
  if (!file) return fail(path, "cannot be read", "check its permissions", Fault::input);
  file.read(head.data(), head.size());
  if (file.gcount() == 0)
    return fail(path, "is empty", "go back to a copy of it, or make a new project", Fault::input);
  const std::string_view begins(head.data(), static_cast<std::size_t>(file.gcount()));
  if (begins.substr(0, 16) == std::string_view("SQLite format 3\0", 16)) return {};
  const auto first = begins.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
  const bool marked = begins.starts_with("\xFF\xFE") || begins.starts_with("\xFE\xFF");  // UTF-16
  if (marked || (first != std::string_view::npos && (begins[first] == '{' || begins[first] == '[')))
    return tl::unexpected<Error>(Error{path, "is JSON, not a project file",
                                       "import it: cinnabar-cli import NEW.cinnabar " + path, Fault::input,
                                       Cause::json});
  return tl::unexpected<Error>(
      Error{path, "is no Cinnabar project", "open a file that ends in .cinnabar", Fault::input, Cause::foreign});
}

void guard(SQLite::Database& db) {
  sqlite3_limit(db.getHandle(), SQLITE_LIMIT_LENGTH, 512 << 20);
  sqlite3_limit(db.getHandle(), SQLITE_LIMIT_TRIGGER_DEPTH, 1);
  db.exec("PRAGMA trusted_schema=OFF");
  db.exec("PRAGMA cell_size_check=ON");
}

std::optional<Error> foreign(SQLite::Database& db, const std::string& path) {
  if (db.execAndGet("PRAGMA application_id").getUInt() != project_application_id)
    return Error{path, "is a database of another program", "open a project made by Cinnabar", Fault::input,
                 Cause::foreign};
  const int version = db.execAndGet("PRAGMA user_version").getInt();
  if (version > store_version)
    return Error{
        path,
        fmt::format("was made by a newer Cinnabar (file version {}, this program knows {}); it was left untouched",
                    version, store_version),
        "open it with that version", Fault::input, Cause::foreign};
  if (version < 1) return damaged(path, "no file version").value();
  return foreign_object(db, path);
}

std::optional<Error> foreign_object(SQLite::Database& db, const std::string& path) {
  const auto own = own_objects();
  SQLite::Statement objects(db, "SELECT type, name, sql FROM sqlite_master LIMIT 1000");
  while (objects.executeStep()) {
    const std::string type = objects.getColumn(0).getString(), name = objects.getColumn(1).getString();
    if (type == "index" && objects.getColumn(2).isNull()) continue;  // SQLite's own, of a primary key
    const auto known = own.find(name);
    if (known == own.end() || tight(objects.getColumn(2).getString()) != known->second)
      return Error{path,
                   fmt::format("holds a {} \"{}\" that Cinnabar did not make; nothing in it was run", type,
                               name.substr(0, 60)),
                   "take it out again, or go back to a copy", Fault::input, Cause::foreign};
  }
  return std::nullopt;
}

tl::unexpected<Error> damaged(const std::string& path, const std::string& why) {
  return tl::unexpected<Error>(
      Error{path, "is damaged (" + why + ")", "go back to a copy of it", Fault::input, Cause::damaged});
}

tl::unexpected<Error> told(const std::string& path, const SQLite::Exception& e, Doing doing) {
  const Fault fault = doing == Doing::writing ? Fault::output : Fault::input;
  const std::string safe = doing == Doing::writing ? "; what was kept before is safe" : "";
  const auto say = [&](const std::string& what, const std::string& mend) {
    return fail(path, what + safe, mend, fault);
  };
  switch (e.getErrorCode() & 0xFF) {
    case SQLITE_FULL:
      return say("could not be written: the disk is full", "make room on the disk, then do it again");
    case SQLITE_BUSY:
    case SQLITE_LOCKED:
      return say("is held by another program", "close it there, then do it again");
    case SQLITE_READONLY:
    case SQLITE_PERM:
    case SQLITE_AUTH:
      return say("may not be written", "check the permissions of the file and of its folder");
    case SQLITE_CANTOPEN:
      return say("cannot be opened where it is: a project keeps its log beside it while it is open",
                 "check that its folder is there and may be written");
    case SQLITE_IOERR:
      return say(fmt::format("the disk does not answer as it should ({})", e.getErrorStr()),
                 "check the disk and the room on it, then do it again");
    case SQLITE_NOMEM:
    case SQLITE_TOOBIG:
      return say("holds more than can be taken into memory", "leave out its largest pictures");
    case SQLITE_CORRUPT:
    case SQLITE_NOTADB:
    case SQLITE_FORMAT:
    case SQLITE_ERROR:  // a table or a column is not there
      return damaged(path, e.what());
    default:
      return doing == Doing::writing ? say(fmt::format("could not be written ({})", e.what()), "do it again")
                                     : damaged(path, e.what());
  }
}

}  // namespace cinnabar
