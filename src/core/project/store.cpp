#include "cinnabar/project/store.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <fcntl.h>
#include <fmt/format.h>
#include <sqlite3.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <ctime>
#include <filesystem>
#include <fstream>
#include <set>

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

constexpr int application_id = 0x43494E4E;  // "CINN"
constexpr int schema_version = 2;           // 2: pictures of kept versions are stored once

constexpr const char* schema = R"(
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

std::string now_text() {
  const std::time_t now = std::time(nullptr);
  std::tm parts{};
  gmtime_r(&now, &parts);
  char text[32];
  std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%SZ", &parts);
  return text;
}

bool has_own_table(const std::string& list) {
  static const std::set<std::string> own{"deliverables", "products", "setups", "shots", "takes"};
  return own.contains(list);
}

tl::unexpected<Error> damaged(const std::string& path, const std::string& why) {
  return fail(path, "is damaged (" + why + ")", "go back to a copy of it", Fault::input);
}
tl::unexpected<Error> not_kept(const std::string& path, const std::string& why) {
  return fail(path, "could not be written (" + why + "); what was kept before is safe",
              "make room on the disk or check the folder's permissions, then do it again", Fault::output);
}

/// Advisory lock on the file itself; the kernel drops it when the process ends.
class WriterLock {
 public:
  explicit WriterLock(const std::string& path) : fd_(::open(path.c_str(), O_RDWR | O_CLOEXEC)) {
    held_ = fd_ >= 0 && ::flock(fd_, LOCK_EX | LOCK_NB) == 0;
  }
  WriterLock(const WriterLock&) = delete;
  WriterLock& operator=(const WriterLock&) = delete;
  ~WriterLock() {
    if (fd_ >= 0) ::close(fd_);
  }
  [[nodiscard]] bool held() const { return held_; }
  [[nodiscard]] bool opened() const { return fd_ >= 0; }
  /// Where the locked file is now; empty when it is gone.
  [[nodiscard]] std::string place() const {
    struct stat own {};
    if (::fstat(fd_, &own) != 0 || own.st_nlink == 0) return {};
    std::error_code error;
    return fs::read_symlink("/proc/self/fd/" + std::to_string(fd_), error).string();
  }
  [[nodiscard]] bool is_at(const std::string& path) const {
    struct stat own {
    }, there{};
    return ::fstat(fd_, &own) == 0 && ::stat(path.c_str(), &there) == 0 && own.st_ino == there.st_ino &&
           own.st_dev == there.st_dev;
  }

 private:
  int fd_;
  bool held_ = false;
};

class SqliteStore final : public Store {
 public:
  SqliteStore(std::string path, std::unique_ptr<WriterLock> lock, int flags)
      : path_(std::move(path)), lock_(std::move(lock)), db_(path_, flags, 5000), writable_(lock_ != nullptr) {}

  ~SqliteStore() override {
    if (!writable_) return;
    try {
      db_.exec("PRAGMA wal_checkpoint(TRUNCATE)");
      db_.exec("PRAGMA journal_mode=DELETE");  // one file after a clean close
    } catch (const SQLite::Exception&) {       // a reader is still there; the log is folded in at the next close
    }
  }

  void prepare_writing() {
    db_.exec("PRAGMA journal_mode=WAL");
    db_.exec("PRAGMA synchronous=FULL");
    db_.exec("PRAGMA foreign_keys=ON");
  }

  void make(const Document& document) {
    db_.exec(fmt::format("PRAGMA application_id={}", application_id));
    prepare_writing();
    SQLite::Transaction transaction(db_);
    db_.exec(schema);
    db_.exec(fmt::format("PRAGMA user_version={}", schema_version));
    for (const auto& [key, value] : document.singles) write_entity({"", key, {}, *value, {}, {}});
    for (const auto& [key, list] : document.lists) {
      write_entity({key, "", {}, Json::array(), {}, {}});
      for (std::size_t i = 0; i < list.size(); ++i)
        write_entity({key, list[i]->at("id").get<std::string>(), {}, *list[i], {}, static_cast<int>(i)});
    }
    for (const auto& [id, blob] : document.blobs) write_blob(id, blob->fields, blob->bytes);
    transaction.commit();
    document_ = document;
  }

  /// What is wrong with the file, or nothing.
  std::optional<Error> inspect() {
    if (db_.execAndGet("PRAGMA application_id").getInt() != application_id)
      return Error{path_, "is a database of another program", "open a project made by Cinnabar", Fault::input};
    const int version = db_.execAndGet("PRAGMA user_version").getInt();
    if (version > schema_version)
      return Error{
          path_,
          fmt::format(
              "was made by a newer Cinnabar (file version {}, this program knows {}); it was left untouched",
              version, schema_version),
          "open it with that version", Fault::input};
    if (version < 1) return Error{path_, "is damaged (no file version)", "go back to a copy of it", Fault::input};
    const std::string check = db_.execAndGet("PRAGMA quick_check(1)").getString();
    if (check != "ok") return Error{path_, "is damaged (" + check + ")", "go back to a copy of it", Fault::input};
    return std::nullopt;
  }

  /// Brings an older layout up to date, after a copy was laid beside the file. Nothing to do for the present one.
  void migrate() {
    if (db_.execAndGet("PRAGMA user_version").getInt() >= schema_version) return;
    const std::string copy = backup_name(1);
    SQLite::Statement into(db_, "VACUUM INTO ?");  // one whole file, whatever the log still held
    into.bind(1, copy);
    into.exec();
    SQLite::Transaction transaction(db_);
    db_.exec("CREATE TABLE kept_blobs (id INTEGER PRIMARY KEY, bytes BLOB NOT NULL)");
    std::vector<std::pair<std::int64_t, Json>> kept;
    SQLite::Statement rows(db_, "SELECT id, document FROM versions");
    while (rows.executeStep())
      kept.emplace_back(rows.getColumn(0).getInt64(), Json::parse(rows.getColumn(1).getString()));
    for (auto& [id, document] : kept) {
      put_away_blobs(document);
      SQLite::Statement update(db_, "UPDATE versions SET document = ? WHERE id = ?");
      update.bind(1, document.dump());
      update.bind(2, id);
      update.exec();
    }
    db_.exec(fmt::format("PRAGMA user_version={}", schema_version));
    transaction.commit();
  }

  void load() {
    Document doc;
    SQLite::Statement singles(db_, "SELECT key, body FROM singles");
    while (singles.executeStep())
      doc.singles[singles.getColumn(0)] =
          std::make_shared<const Json>(Json::parse(singles.getColumn(1).getString()));
    SQLite::Statement lists(db_, "SELECT key FROM lists");
    while (lists.executeStep()) doc.lists[lists.getColumn(0)];
    for (auto& [key, list] : doc.lists) {
      SQLite::Statement rows(db_, has_own_table(key) ? "SELECT body FROM " + key + " ORDER BY place"
                                                     : "SELECT body FROM others WHERE list = ? ORDER BY place");
      if (!has_own_table(key)) rows.bind(1, key);
      while (rows.executeStep())
        list.push_back(std::make_shared<const Json>(Json::parse(rows.getColumn(0).getString())));
      for (const JsonPtr& item : list)
        if (!item->is_object() || !item->contains("id")) throw std::runtime_error("an entity has no id");
    }
    SQLite::Statement blobs(db_, "SELECT id, fields, bytes FROM blobs");
    while (blobs.executeStep()) {
      Blob blob{Json::parse(blobs.getColumn(1).getString()), {}};
      const auto* data = static_cast<const unsigned char*>(blobs.getColumn(2).getBlob());
      blob.bytes.assign(data, data + blobs.getColumn(2).getBytes());
      doc.blobs[blobs.getColumn(0)] = std::make_shared<const Blob>(std::move(blob));
    }
    document_ = std::move(doc);
  }

  const Document& document() const override { return document_; }
  const std::string& path() const override { return path_; }
  std::string moved_to() const override { return lock_ && !lock_->is_at(path_) ? lock_->place() : std::string(); }

  Expected<void> apply(const Edit& edit) override {
    if (edit.changes.empty()) return {};
    return writing([&] {
      SQLite::Statement forget(db_, "DELETE FROM history WHERE seq > ?");
      forget.bind(1, done());
      forget.exec();
      SQLite::Statement note(db_, "INSERT INTO history (title, at) VALUES (?, ?)");
      note.bind(1, edit.title);
      note.bind(2, now_text());
      note.exec();
      const auto seq = db_.getLastInsertRowid();
      for (const Change& change : edit.changes) {
        write_entity(change);
        write_change(seq, change);
      }
      set_done(seq);
      return applied(document_, edit);
    });
  }

  Expected<std::optional<Edit>> undo() override { return step(false); }
  Expected<std::optional<Edit>> redo() override { return step(true); }
  std::string undo_title() const override { return title_of(next_seq(false)); }
  std::string redo_title() const override { return title_of(next_seq(true)); }

  Expected<std::optional<std::vector<EntityChange>>> changes_between_takes(
      const std::string& earlier, const std::string& later) const override {
    return reading<std::optional<std::vector<EntityChange>>>([&]() -> std::optional<std::vector<EntityChange>> {
      const auto from = logged(earlier), to = logged(later);
      if (!from || !to) return std::nullopt;
      return changes_in(*from, *to);
    });
  }
  Expected<std::optional<std::vector<EntityChange>>> changes_since_take(const std::string& take) const override {
    return reading<std::optional<std::vector<EntityChange>>>([&]() -> std::optional<std::vector<EntityChange>> {
      const auto from = logged(take);
      if (!from) return std::nullopt;
      return changes_in(*from, done());
    });
  }

  Expected<void> keep_version(const std::string& name) override {
    return writing([&] {
      SQLite::Statement insert(db_, "INSERT INTO versions (name, at, document) VALUES (?, ?, ?)");
      insert.bind(1, name);
      insert.bind(2, now_text());
      Json document = document_.to_json();
      put_away_blobs(document);
      insert.bind(3, document.dump());
      insert.exec();
      return document_;
    });
  }
  Expected<std::vector<KeptVersion>> versions() const override {
    return reading<std::vector<KeptVersion>>([&] {
      std::vector<KeptVersion> list;
      SQLite::Statement rows(db_, "SELECT name, at FROM versions ORDER BY id");
      while (rows.executeStep()) list.push_back({rows.getColumn(0), rows.getColumn(1)});
      return list;
    });
  }

  Expected<Document> version(std::size_t number) const override {
    auto read = reading<std::optional<Json>>([&]() -> std::optional<Json> {
      SQLite::Statement row(db_, "SELECT document FROM versions ORDER BY id LIMIT 1 OFFSET ?");
      row.bind(1, static_cast<std::int64_t>(number));
      if (!row.executeStep()) return std::nullopt;
      Json document = Json::parse(row.getColumn(0).getString());
      fetch_blobs(document);
      return document;
    });
    if (!read) return tl::unexpected(read.error());
    if (!*read) return fail(fmt::format("version {}", number + 1), "was not kept", "see the list of versions");
    return Document::from_json(**read);
  }

 private:
  template <class F>
  Expected<void> writing(F change) {
    if (!writable_) return fail(path_, "is open for reading only", "close the other window first", Fault::output);
    if (lock_->place().empty())
      return fail(path_, "was deleted while it was open", "save a copy under another name", Fault::output);
    try {
      SQLite::Transaction transaction(db_);
      Document next = change();
      transaction.commit();
      // The log stays where the file was: a file that moved must hold everything itself.
      if (!lock_->is_at(path_)) db_.exec("PRAGMA wal_checkpoint(TRUNCATE)");
      document_ = std::move(next);
      return {};
    } catch (const SQLite::Exception& e) {
      return not_kept(path_, e.what());
    }
  }
  template <class T, class F>
  Expected<T> reading(F read) const {
    try {
      return read();
    } catch (const SQLite::Exception& e) {
      return damaged(path_, e.what());
    } catch (const Json::exception&) {
      return damaged(path_, "its history cannot be read");
    }
  }

  /// A name beside the file that is not taken: "Slow Burn.v1.cinnabar", "Slow Burn.v1-2.cinnabar".
  [[nodiscard]] std::string backup_name(int version) const {
    const fs::path whole(path_);
    for (int n = 1;; ++n) {
      const fs::path name =
          whole.parent_path() / fmt::format("{}.v{}{}{}", whole.stem().string(), version,
                                            n > 1 ? "-" + std::to_string(n) : "", whole.extension().string());
      std::error_code ignored;
      if (!fs::exists(name, ignored)) return name.string();
    }
  }

  /// Replaces each blob's bytes in a version's document by the number of their one copy.
  void put_away_blobs(Json& document) {
    if (!document.contains("blobs") || !document["blobs"].is_object()) return;
    for (auto& [id, blob] : document["blobs"].items()) {
      const auto bytes = base64_decoded(blob.value("data", "")).value_or(std::vector<unsigned char>{});
      if (!blob.contains("data")) continue;
      SQLite::Statement find(db_, "SELECT id FROM kept_blobs WHERE bytes = ?");
      find.bind(1, bytes.data(), static_cast<int>(bytes.size()));
      std::int64_t number = 0;
      if (find.executeStep()) {
        number = find.getColumn(0).getInt64();
      } else {
        SQLite::Statement put(db_, "INSERT INTO kept_blobs (bytes) VALUES (?)");
        put.bind(1, bytes.data(), static_cast<int>(bytes.size()));
        put.exec();
        number = db_.getLastInsertRowid();
      }
      blob.erase("data");
      blob["kept"] = number;
    }
  }
  void fetch_blobs(Json& document) const {
    if (!document.contains("blobs") || !document["blobs"].is_object()) return;
    for (auto& [id, blob] : document["blobs"].items()) {
      if (!blob.contains("kept")) continue;  // as an older layout kept it
      SQLite::Statement find(db_, "SELECT bytes FROM kept_blobs WHERE id = ?");
      find.bind(1, blob["kept"].get<std::int64_t>());
      if (!find.executeStep()) continue;
      const auto* data = static_cast<const unsigned char*>(find.getColumn(0).getBlob());
      blob["data"] = base64_encoded(std::vector<unsigned char>(data, data + find.getColumn(0).getBytes()));
      blob.erase("kept");
    }
  }

  [[nodiscard]] std::int64_t done() const {
    return const_cast<SQLite::Database&>(db_).execAndGet("SELECT value FROM state WHERE name = 'done'").getInt64();
  }
  void set_done(std::int64_t seq) {
    SQLite::Statement update(db_, "UPDATE state SET value = ? WHERE name = 'done'");
    update.bind(1, seq);
    update.exec();
  }

  void write_blob(const std::string& id, const Json& fields, const std::vector<unsigned char>& bytes) {
    SQLite::Statement put(db_, "INSERT OR REPLACE INTO blobs (id, fields, bytes) VALUES (?, ?, ?)");
    put.bind(1, id);
    put.bind(2, fields.dump());
    put.bind(3, bytes.data(), static_cast<int>(bytes.size()));
    put.exec();
  }

  void write_entity(const Change& change) {
    const bool own = has_own_table(change.list);
    if (change.list == "blobs") {
      if (!change.after) {
        SQLite::Statement drop(db_, "DELETE FROM blobs WHERE id = ?");
        drop.bind(1, change.id);
        drop.exec();
        return;
      }
      Json fields = *change.after;
      const auto bytes = base64_decoded(fields.value("data", "")).value_or(std::vector<unsigned char>{});
      fields.erase("data");
      write_blob(change.id, fields, bytes);
      return;
    }
    const bool single = change.list.empty(), presence = !single && change.id.empty();
    const std::string table = single ? "singles" : presence ? "lists" : own ? change.list : "others";
    const std::string& key = presence ? change.list : change.id;
    if (!change.after) {
      SQLite::Statement drop(db_,
                             fmt::format("DELETE FROM {} WHERE {} = ?{}", table, single || presence ? "key" : "id",
                                         table == "others" ? " AND list = ?" : ""));
      drop.bind(1, key);
      if (table == "others") drop.bind(2, change.list);
      drop.exec();
      return;
    }
    if (presence) {
      SQLite::Statement put(db_, "INSERT OR REPLACE INTO lists (key) VALUES (?)");
      put.bind(1, key);
      put.exec();
      return;
    }
    SQLite::Statement put(db_, single ? "INSERT OR REPLACE INTO singles (key, body) VALUES (?, ?)"
                               : own
                                   ? "INSERT OR REPLACE INTO " + table + " (id, body, place) VALUES (?, ?, ?)"
                                   : "INSERT OR REPLACE INTO others (id, body, place, list) VALUES (?, ?, ?, ?)");
    put.bind(1, key);
    put.bind(2, change.after->dump());
    if (!single) put.bind(3, change.place_after.value_or(0));
    if (table == "others") put.bind(4, change.list);
    put.exec();
  }

  void write_change(std::int64_t seq, const Change& c) {
    SQLite::Statement put(db_, "INSERT INTO changes VALUES (?, ?, ?, ?, ?, ?, ?)");
    put.bind(1, seq);
    put.bind(2, c.list);
    put.bind(3, c.id);
    c.before ? put.bind(4, c.before->dump()) : put.bind(4);
    c.after ? put.bind(5, c.after->dump()) : put.bind(5);
    c.place_before ? put.bind(6, *c.place_before) : put.bind(6);
    c.place_after ? put.bind(7, *c.place_after) : put.bind(7);
    put.exec();
  }

  [[nodiscard]] std::optional<std::int64_t> next_seq(bool forward) const {
    SQLite::Statement find(db_, forward ? "SELECT min(seq) FROM history WHERE seq > ?"
                                        : "SELECT max(seq) FROM history WHERE seq <= ?");
    find.bind(1, done());
    if (!find.executeStep() || find.getColumn(0).isNull()) return std::nullopt;
    return find.getColumn(0).getInt64();
  }
  [[nodiscard]] std::string title_of(std::optional<std::int64_t> seq) const {
    if (!seq) return {};
    SQLite::Statement find(db_, "SELECT title FROM history WHERE seq = ?");
    find.bind(1, *seq);
    return find.executeStep() ? find.getColumn(0).getString() : "";
  }

  static std::optional<Json> maybe_json(const SQLite::Column& column) {
    return column.isNull() ? std::nullopt : std::optional(Json::parse(column.getString()));
  }
  static std::optional<int> maybe_int(const SQLite::Column& column) {
    return column.isNull() ? std::nullopt : std::optional(column.getInt());
  }
  [[nodiscard]] Edit edit_at(std::int64_t seq) const {
    Edit edit{title_of(seq), {}};
    SQLite::Statement rows(
        db_,
        "SELECT list, id, before, after, place_before, place_after FROM changes WHERE seq = ? ORDER BY rowid");
    rows.bind(1, seq);
    while (rows.executeStep())
      edit.changes.push_back({rows.getColumn(0), rows.getColumn(1), maybe_json(rows.getColumn(2)),
                              maybe_json(rows.getColumn(3)), maybe_int(rows.getColumn(4)),
                              maybe_int(rows.getColumn(5))});
    return edit;
  }

  Expected<std::optional<Edit>> step(bool forward) {
    std::optional<Edit> edit;
    try {
      const auto seq = next_seq(forward);
      if (!seq) return std::optional<Edit>{};
      edit = edit_at(*seq);
      const auto written = writing([&] {
        for (const Change& c : edit->changes)
          write_entity(forward ? c : Change{c.list, c.id, c.after, c.before, c.place_after, c.place_before});
        set_done(forward ? *seq : *seq - 1);
        return applied(document_, *edit, forward);
      });
      if (!written) return tl::unexpected(written.error());
    } catch (const SQLite::Exception& e) {
      return damaged(path_, e.what());
    } catch (const Json::exception&) {
      return damaged(path_, "its history cannot be read");
    }
    return edit;
  }

  [[nodiscard]] std::optional<std::int64_t> logged(const std::string& take) const {
    SQLite::Statement find(
        db_, "SELECT min(seq) FROM changes WHERE list = 'takes' AND id = ? AND before IS NULL AND seq <= ?");
    find.bind(1, take);
    find.bind(2, done());
    if (!find.executeStep() || find.getColumn(0).isNull()) return std::nullopt;
    return find.getColumn(0).getInt64();
  }

  [[nodiscard]] std::vector<EntityChange> changes_in(std::int64_t after_seq, std::int64_t to_seq) const {
    std::vector<EntityChange> list;
    SQLite::Statement rows(db_,
                           "SELECT list, id, before, after FROM changes WHERE seq > ? AND seq <= ? AND list != "
                           "'takes' ORDER BY rowid");
    rows.bind(1, after_seq);
    rows.bind(2, to_seq);
    while (rows.executeStep()) {
      const std::string key = rows.getColumn(0), id = rows.getColumn(1);
      auto known = std::find_if(list.begin(), list.end(),
                                [&](const EntityChange& c) { return c.list == key && c.id == id; });
      if (known == list.end()) {
        list.push_back({key, id, maybe_json(rows.getColumn(2)), {}});
        known = list.end() - 1;
      }
      known->after = maybe_json(rows.getColumn(3));
    }
    std::erase_if(list, [](const EntityChange& c) { return c.before == c.after; });
    return list;
  }

  std::string path_;
  std::unique_ptr<WriterLock> lock_;  // outlives the database's own handles on the file
  mutable SQLite::Database db_;
  bool writable_;
  Document document_;
};

}  // namespace

Expected<std::unique_ptr<Store>> Store::create(const std::string& path, const Document& document) {
  std::error_code ignored;
  if (fs::exists(path, ignored))
    return fail(path, "exists already", "choose another name, or remove it first", Fault::output);
  const auto discard = [&] {
    for (const char* end : {"", "-wal", "-shm", "-journal"}) fs::remove(path + end, ignored);
  };
  try {
    {
      std::ofstream touch(path, std::ios::binary);
      if (!touch) return not_kept(path, "it cannot be made there");
    }
    auto lock = std::make_unique<WriterLock>(path);
    auto store = std::make_unique<SqliteStore>(path, std::move(lock), SQLite::OPEN_READWRITE);
    store->make(document);
    return store;
  } catch (const std::exception& e) {
    discard();
    return not_kept(path, e.what());
  }
}

Expected<std::unique_ptr<Store>> Store::open(const std::string& path, Access access) {
  std::error_code error;
  if (!fs::exists(path, error)) return fail(path, "is not there", "check the name", Fault::input);
  if (fs::is_directory(path, error)) return fail(path, "is a folder", "name a project file", Fault::input);
  char head[16]{};
  std::ifstream file(path, std::ios::binary);
  if (!file) return fail(path, "cannot be read", "check its permissions", Fault::input);
  file.read(head, sizeof head);
  if (file.gcount() == 0)
    return fail(path, "is empty", "go back to a copy of it, or make a new project", Fault::input);
  if (std::string_view(head, sizeof head) != std::string_view("SQLite format 3\0", 16)) {
    const auto first =
        std::string_view(head, static_cast<std::size_t>(file.gcount())).find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    if (first != std::string_view::npos && head[first] == '{')
      return fail(path, "is JSON, not a project file", "import it: cinnabar-cli import NEW.cinnabar " + path,
                  Fault::input);
    return fail(path, "is no Cinnabar project", "open a file that ends in .cinnabar", Fault::input);
  }
  file.close();
  try {
    std::unique_ptr<WriterLock> lock;
    if (access == Access::write) {
      lock = std::make_unique<WriterLock>(path);
      if (!lock->opened()) return fail(path, "may not be written", "check its permissions", Fault::output);
      if (!lock->held())
        return fail(path, "is open for writing elsewhere", "close it there, or open it for reading",
                    Fault::output);
    }
    auto store = std::make_unique<SqliteStore>(
        path, std::move(lock), access == Access::write ? SQLite::OPEN_READWRITE : SQLite::OPEN_READONLY);
    if (auto wrong = store->inspect()) return tl::unexpected(*wrong);
    store->load();
    if (access == Access::write) {
      store->prepare_writing();
      store->migrate();
    }
    return store;
  } catch (const std::exception& e) {
    return damaged(path, e.what());
  }
}

}  // namespace cinnabar
