#include "cinnabar/project/store/store.h"

#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <ctime>
#include <filesystem>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/files.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/store/store_file.h"
#include "cinnabar/project/store/store_rows.h"

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

std::string now_text() {
  const std::time_t now = std::time(nullptr);
  std::tm parts{};
  gmtime_r(&now, &parts);
  char text[32];
  std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%SZ", &parts);
  return text;
}

constexpr std::int64_t large_file = 8 << 20;  // bytes

class SqliteStore final : public Store {
 public:
  /// For writing, under the lock.
  SqliteStore(std::string path, std::unique_ptr<WriterLock> lock)
      : path_(std::move(path)),
        lock_(std::move(lock)),
        db_(database_name(path_), SQLite::OPEN_READWRITE | SQLite::OPEN_NOMUTEX, 5000),
        writable_(true) {
    guard(db_);
  }
  /// For reading.
  SqliteStore(std::string path, ReadingPlace place)
      : path_(std::move(path)),
        copy_(std::move(place.copy)),
        db_(place.path, place.flags | SQLite::OPEN_NOMUTEX, 5000),
        writable_(false) {
    guard(db_);
    db_.exec("PRAGMA query_only=ON");
  }

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
    db_.exec("PRAGMA journal_mode=OFF");  // nobody sees the file before it is whole
    db_.exec("PRAGMA synchronous=OFF");   // it is synchronised before it is put in its place
    db_.exec(fmt::format("PRAGMA application_id={}", project_application_id));
    SQLite::Transaction transaction(db_);
    db_.exec(store_schema);
    db_.exec(fmt::format("PRAGMA user_version={}", store_version));
    for (const auto& [key, value] : document.singles) rows_.entity({"", key, {}, *value, {}, {}});
    for (const auto& [key, list] : document.lists) {
      rows_.entity({key, "", {}, Json::array(), {}, {}});
      for (std::size_t i = 0; i < list.size(); ++i)
        rows_.entity({key, list[i]->at("id").get<std::string>(), {}, *list[i], {}, static_cast<int>(i)});
    }
    for (const auto& [id, blob] : document.blobs) rows_.blob(id, blob->fields, blob->bytes);
    transaction.commit();
    document_ = document;
  }

  /// What is wrong with the file, or nothing. Its tables are looked at only when they are known to be ours.
  /// In a large file only what makes up the document is looked at: the history, which may be most of it, is met
  /// when it is asked for, and takes as they are read.
  std::optional<Error> inspect() {
    if (auto other = foreign(db_, path_)) return other;
    const auto pages = db_.execAndGet("PRAGMA page_count").getInt64(),
               size = db_.execAndGet("PRAGMA page_size").getInt64();
    std::vector<std::string> parts{"1"};
    if (pages * size > large_file)
      parts = {"singles", "lists", "deliverables", "products", "setups", "shots", "others"};
    for (const std::string& part : parts) {
      const std::string check = db_.execAndGet("PRAGMA quick_check(" + part + ")").getString();
      if (check != "ok") return damaged(path_, check).value();
    }
    return std::nullopt;
  }

  /// Brings an older layout up to date, after a copy was laid beside the file. Nothing to do for the present one.
  void migrate() {
    if (db_.execAndGet("PRAGMA user_version").getInt() >= store_version) return;
    const std::string copy = backup_name(1);
    SQLite::Statement into(db_, "VACUUM INTO ?");  // one whole file, whatever the log still held
    into.bind(1, copy);
    into.exec();
    SQLite::Transaction transaction(db_);
    db_.exec(kept_blobs_table);
    std::vector<std::pair<std::int64_t, Json>> kept;
    SQLite::Statement rows(db_, "SELECT id, document FROM versions");
    while (rows.executeStep()) kept.emplace_back(rows.getColumn(0).getInt64(), stored(rows.getColumn(1)));
    for (auto& [id, document] : kept) {
      put_away_blobs(db_, document);
      SQLite::Statement update(db_, "UPDATE versions SET document = ? WHERE id = ?");
      update.bind(1, json_text(document));
      update.bind(2, id);
      update.exec();
    }
    db_.exec(fmt::format("PRAGMA user_version={}", store_version));
    transaction.commit();
  }

  void load() {
    Document doc;
    SQLite::Statement singles(db_, "SELECT key, body FROM singles");
    while (singles.executeStep())
      doc.singles[singles.getColumn(0)] = std::make_shared<const Json>(stored(singles.getColumn(1)));
    SQLite::Statement lists(db_, "SELECT key FROM lists");
    while (lists.executeStep()) doc.lists[lists.getColumn(0)];
    for (auto& [key, list] : doc.lists) {
      if (key == "takes") {
        list = takes();
        continue;
      }
      SQLite::Statement rows(db_, has_own_table(key) ? "SELECT body FROM " + key + " ORDER BY place"
                                                     : "SELECT body FROM others WHERE list = ? ORDER BY place");
      if (!has_own_table(key)) rows.bind(1, key);
      while (rows.executeStep()) list.push_back(std::make_shared<const Json>(stored(rows.getColumn(0))));
      for (const JsonPtr& item : list)
        if (!item->is_object() || !item->contains("id") || !item->at("id").is_string())
          throw std::runtime_error("an entity has no id");
    }
    SQLite::Statement blobs(db_, "SELECT id, fields, bytes FROM blobs");
    while (blobs.executeStep()) {
      Blob blob{stored(blobs.getColumn(1)), {}};
      const auto* data = static_cast<const unsigned char*>(blobs.getColumn(2).getBlob());
      blob.bytes.assign(data, data + blobs.getColumn(2).getBytes());
      doc.blobs[blobs.getColumn(0)] = std::make_shared<const Blob>(std::move(blob));
    }
    document_ = std::move(doc);
  }

  /// There may be a hundred thousand of them, and most calls look at none.
  std::vector<JsonPtr> takes() {
    SQLite::Statement rows(db_, "SELECT id, body, place FROM takes");
    StoredRows taken;
    const auto text = [](const SQLite::Column& c) {
      return std::string_view(c.getText(), static_cast<std::size_t>(c.getBytes()));
    };
    while (rows.executeStep())
      taken.add(text(rows.getColumn(0)), text(rows.getColumn(1)), rows.getColumn(2).getInt());
    return std::move(taken).taken();
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
      const std::int64_t seq = done() + 1;
      SQLite::Statement note(db_, "INSERT INTO history (seq, title, at) VALUES (?, ?, ?)");
      note.bind(1, seq);
      note.bind(2, made_utf8(edit.title));
      note.bind(3, now_text());
      note.exec();
      for (const Change& change : edit.changes) {
        rows_.entity(change);
        rows_.change(seq, change);
      }
      rows_.done(seq);
      return applied(document_, edit);
    });
  }

  Expected<std::optional<Edit>> undo() override { return step(false); }
  Expected<std::optional<Edit>> redo() override { return step(true); }
  std::string undo_title() const override { return next_title(false); }
  std::string redo_title() const override { return next_title(true); }

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
    if (!is_utf8(name))
      return fail("the version's name", "holds bytes that are no UTF-8 text", "name it in plain letters");
    return writing([&] {
      SQLite::Statement insert(db_, "INSERT INTO versions (name, at, document) VALUES (?, ?, ?)");
      insert.bind(1, name);
      insert.bind(2, now_text());
      Json document = document_.to_json();
      put_away_blobs(db_, document);
      insert.bind(3, json_text(document));
      insert.exec();
      return document_;
    });
  }
  Expected<std::vector<KeptVersion>> versions() const override {
    return reading<std::vector<KeptVersion>>([&] {
      std::vector<KeptVersion> list;
      SQLite::Statement rows(db_, "SELECT name, at FROM versions ORDER BY id");
      while (rows.executeStep())
        list.push_back({made_utf8(rows.getColumn(0).getString()), made_utf8(rows.getColumn(1).getString())});
      return list;
    });
  }

  Expected<Document> version(std::size_t number) const override {
    auto read = reading<std::optional<Json>>([&]() -> std::optional<Json> {
      SQLite::Statement row(db_, "SELECT document FROM versions ORDER BY id LIMIT 1 OFFSET ?");
      row.bind(1, static_cast<std::int64_t>(number));
      if (!row.executeStep()) return std::nullopt;
      Json document = stored(row.getColumn(0));
      fetch_blobs(db_, document);
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
      const RowWriter::Transaction made_ready(rows_);
      Document next = change();
      transaction.commit();
      // The log stays where the file was: a file that moved must hold everything itself.
      if (!lock_->is_at(path_)) db_.exec("PRAGMA wal_checkpoint(TRUNCATE)");
      document_ = std::move(next);
      return {};
    } catch (const SQLite::Exception& e) {
      return told(path_, e, Doing::writing);
    }
  }
  template <class T, class F>
  Expected<T> reading(F read) const {
    try {
      return read();
    } catch (const SQLite::Exception& e) {
      return told(path_, e, Doing::reading);
    } catch (const std::runtime_error&) {
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

  /// Number of the last edit that holds. Where the row of it is lost, everything in the history holds.
  [[nodiscard]] std::int64_t done() const {
    SQLite::Statement find(db_,
                           "SELECT coalesce((SELECT value FROM state WHERE name = 'done'), "
                           "(SELECT max(seq) FROM history), 0)");
    find.executeStep();
    return find.getColumn(0).getInt64();
  }
  /// The edit that undo or redo would act on; nothing when there is none. Numbers follow one another without a
  /// gap.
  [[nodiscard]] std::optional<std::int64_t> next_seq(bool forward) const {
    const std::int64_t last = done(), wanted = forward ? last + 1 : last;
    SQLite::Statement find(db_,
                           "SELECT (SELECT count(*) FROM history WHERE seq = ?1), "
                           "(SELECT count(*) FROM (SELECT 1 FROM history WHERE seq > ?1 LIMIT 1)), "
                           "(SELECT count(*) FROM (SELECT 1 FROM history WHERE seq < ?1 LIMIT 1))");
    find.bind(1, wanted);
    find.executeStep();
    if (find.getColumn(0).getInt() > 0) return wanted;
    if (find.getColumn(forward ? 1 : 2).getInt() > 0) throw Gap();
    return std::nullopt;
  }
  struct Gap : std::runtime_error {
    Gap() : std::runtime_error("a step is missing from the history") {}
  };
  [[nodiscard]] std::string title_of(std::optional<std::int64_t> seq) const {
    if (!seq) return {};
    SQLite::Statement find(db_, "SELECT title FROM history WHERE seq = ?");
    find.bind(1, *seq);
    return find.executeStep() ? made_utf8(find.getColumn(0).getString()) : "";
  }
  [[nodiscard]] std::string next_title(bool forward) const {
    try {
      return title_of(next_seq(forward));
    } catch (const std::runtime_error&) {  // said when it is asked for
      return {};
    }
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
          rows_.entity(forward ? c : Change{c.list, c.id, c.after, c.before, c.place_after, c.place_before});
        rows_.done(forward ? *seq : *seq - 1);
        return applied(document_, *edit, forward);
      });
      if (!written) return tl::unexpected(written.error());
    } catch (const Gap&) {
      return fail(
          path_,
          "has a gap in its history, over which nothing can be taken back or done again; the project is whole",
          "go on from here, or go back to a kept version", Fault::input);
    } catch (const SQLite::Exception& e) {
      return told(path_, e, Doing::reading);
    } catch (const std::runtime_error&) {
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
  std::unique_ptr<WriterLock> lock_;     // outlives the database's own handles on the file
  std::shared_ptr<PrivateFolder> copy_;  // so does the folder
  mutable SQLite::Database db_;
  RowWriter rows_{db_};
  bool writable_;
  Document document_;
};

tl::unexpected<Error> unwritable(const std::string& path, const std::string& what, const std::string& mend) {
  return tl::unexpected<Error>(Error{path, what, mend, Fault::output, Cause::unwritable});
}

}  // namespace

Expected<std::unique_ptr<Store>> Store::create(const std::string& path, const Document& document) {
  std::error_code ignored;
  const auto taken = [&] {
    return fail(path, "exists already", "choose another name, or remove it first", Fault::output);
  };
  if (fs::exists(path, ignored)) return taken();
  for (const char* end : {"-wal", "-shm", "-journal"})
    if (fs::exists(path + end, ignored))
      return fail(path, "cannot be made: the log of another project is left at " + path + end,
                  "choose another name, or move that file away", Fault::output);
  auto beside = FileBeside::at(path);
  if (!beside) return tl::unexpected(beside.error());
  try {
    SqliteStore(beside->beside(), nullptr).make(document);
  } catch (const SQLite::Exception& e) {
    return told(path, e, Doing::writing);
  }
  if (const auto kept = beside->keep_new(); !kept) return tl::unexpected(kept.error());
  return open(path, Access::write);
}

Expected<std::unique_ptr<Store>> Store::open(const std::string& path, Access access) {
  if (const auto good = check_database_file(path); !good) return tl::unexpected(good.error());
  try {
    std::unique_ptr<SqliteStore> store;
    if (access == Access::write) {
      auto lock = std::make_unique<WriterLock>(path);
      if (!lock->opened()) return unwritable(path, "may not be written", "check its permissions");
      if (!lock->held())
        return tl::unexpected<Error>(Error{path, "is open for writing elsewhere",
                                           "close it there, or open it for reading", Fault::output,
                                           Cause::locked});
      const std::string folder = fs::path(database_name(path)).parent_path().string();
      if (::access(folder.c_str(), W_OK) != 0)
        return unwritable(path,
                          "stands in a folder that may not be written, where it keeps its log while it is open",
                          "check the folder's permissions, or copy the project elsewhere");
      store = std::make_unique<SqliteStore>(path, std::move(lock));
    } else {
      auto place = reading_place(path);
      if (!place) return tl::unexpected(place.error());
      store = std::make_unique<SqliteStore>(path, std::move(*place));
    }
    if (auto wrong = store->inspect()) return tl::unexpected(*wrong);
    store->load();
    if (access == Access::write) {
      store->prepare_writing();
      store->migrate();
    }
    return store;
  } catch (const SQLite::Exception& e) {
    return told(path, e, Doing::reading);
  } catch (const std::exception& e) {
    return damaged(path, e.what());
  }
}

}  // namespace cinnabar
