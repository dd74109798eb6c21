// What is left of a damaged project file, row by row.
#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <set>

#include "cinnabar/base/files.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/store/store.h"
#include "cinnabar/project/store/store_file.h"

namespace cinnabar {
namespace {

/// A document to look at; nothing can be written to it.
class SalvagedStore final : public Store {
 public:
  SalvagedStore(std::string path, Document document) : path_(std::move(path)), document_(std::move(document)) {}
  const Document& document() const override { return document_; }
  const std::string& path() const override { return path_; }
  Expected<void> apply(const Edit&) override { return refuse(); }
  Expected<std::optional<Edit>> undo() override { return refuse(); }
  Expected<std::optional<Edit>> redo() override { return refuse(); }
  std::string undo_title() const override { return {}; }
  std::string redo_title() const override { return {}; }
  Expected<std::optional<std::vector<EntityChange>>> changes_between_takes(const std::string&,
                                                                           const std::string&) const override {
    return std::optional<std::vector<EntityChange>>{};
  }
  Expected<std::optional<std::vector<EntityChange>>> changes_since_take(const std::string&) const override {
    return std::optional<std::vector<EntityChange>>{};
  }
  Expected<void> keep_version(const std::string&) override { return refuse(); }
  Expected<std::vector<KeptVersion>> versions() const override { return std::vector<KeptVersion>{}; }
  Expected<Document> version(std::size_t) const override { return refuse(); }

 private:
  [[nodiscard]] tl::unexpected<Error> refuse() const {
    return fail(path_, "is damaged and open for reading only", "save a copy of what is left", Fault::output);
  }
  std::string path_;
  Document document_;
};

/// Calls `each(statement)` for every row of a table that can be read, in the order of its places. A page that
/// cannot be read costs the rows on it; the answer is how many times reading had to start anew.
template <class F>
int rows_of(SQLite::Database& db, const std::string& columns, const std::string& table, F each) {
  int broken = 0;
  std::int64_t after = -1;
  while (broken < 500) {
    try {
      SQLite::Statement rows(
          db, fmt::format("SELECT rowid, {} FROM {} WHERE rowid > ? ORDER BY rowid", columns, table));
      rows.bind(1, after);
      while (rows.executeStep()) {
        const std::int64_t row = rows.getColumn(0).getInt64();
        if (row <= after) return broken + 1;  // pages that lead round in a circle
        after = row;
        each(rows);
      }
      return broken;
    } catch (const SQLite::Exception&) {
      ++broken;
      ++after;  // step over what cannot be read
    }
  }
  return broken;
}

std::optional<Json> parsed(const SQLite::Column& column) { return parsed_json(column.getString()); }

/// The document without the smallest thing round a fault whose going leaves fewer faults; nothing where only the
/// whole entity would do.
std::optional<Document> without_fault(const Document& document, const std::string& path, std::size_t faults) {
  for (std::string at = path; std::count(at.begin(), at.end(), '/') > (at.starts_with("/kit/") ? 3 : 2);
       at.resize(at.rfind('/')))
    if (auto less = with_value(document, at, std::nullopt); less && validate(*less).size() < faults)
      return std::move(*less);
  return std::nullopt;
}

/// Takes out what a valid project cannot hold, as little as will do.
void mend_rest(Document& document, std::vector<std::string>& lost) {
  for (int round = 0; round < 2000; ++round) {
    const auto faults = validate(document);
    if (faults.empty()) return;
    const std::string& path = faults.front().path;
    const auto list_of = [&](const std::string& key) { return path.starts_with("/" + key + "/"); };
    if (auto less = without_fault(document, path, faults.size())) {
      lost.push_back(path + " " + faults.front().message);
      document = std::move(*less);
      continue;
    }
    bool dropped = false;
    for (auto& [key, list] : document.lists)
      if (!dropped && list_of(key)) {
        const auto index = static_cast<std::size_t>(std::atoi(path.c_str() + key.size() + 2));
        if (index >= list.size()) continue;
        lost.push_back(fmt::format("{} \"{}\": {}", key, list[index]->value("id", ""), faults.front().message));
        list.erase(list.begin() + static_cast<std::ptrdiff_t>(index));
        dropped = true;
      }
    if (!dropped) {
      const std::string key = path.substr(1, path.find('/', 1) - 1);
      if (document.singles.erase(key) == 0) return;
      lost.push_back(key);
    }
  }
}

/// Nothing names a take, and there may be a hundred thousand: they are looked at last, all at once.
void mend(Document& document, std::vector<std::string>& lost) {
  const auto log = document.lists.find("takes");
  std::vector<JsonPtr> takes = log == document.lists.end() ? std::vector<JsonPtr>{} : std::move(log->second);
  if (log != document.lists.end()) log->second.clear();
  mend_rest(document, lost);
  if (takes.empty()) return;
  document.lists["takes"] = std::move(takes);
  std::set<std::size_t> faulty;
  for (const DocumentFault& fault : validate(document))
    if (fault.path.starts_with("/takes/"))
      faulty.insert(static_cast<std::size_t>(std::atoi(fault.path.c_str() + 7)));
  if (faulty.empty()) return;
  lost.push_back(fmt::format("{} of the takes", faulty.size()));
  std::vector<JsonPtr> kept;
  for (std::size_t i = 0; i < document.lists["takes"].size(); ++i)
    if (!faulty.contains(i)) kept.push_back(document.lists["takes"][i]);
  document.lists["takes"] = std::move(kept);
}

}  // namespace

Expected<std::unique_ptr<Store>> Store::salvage(const std::string& path, std::vector<std::string>& lost) {
  namespace fs = std::filesystem;
  lost.clear();
  const auto hopeless = [&](const std::string& why) {
    return fail(path, "is damaged beyond reading (" + why + ")", "go back to a copy of it", Fault::input);
  };
  if (const auto good = check_database_file(path); !good) return tl::unexpected(good.error());
  const auto from = reading_place(path);
  if (!from) return tl::unexpected(from.error());
  Document document;
  const std::set<std::string> own{"deliverables", "products", "setups", "shots", "takes"};
  try {
    SQLite::Database db(from->path, from->flags, 1000);
    guard(db);
    db.exec("PRAGMA query_only=ON");
    if (db.execAndGet("PRAGMA application_id").getUInt() != project_application_id)
      return hopeless("it is not this program's");
    if (const auto other = foreign_object(db, path)) return tl::unexpected(*other);
    const auto note = [&](const std::string& what, int broken) {
      if (broken > 0) lost.push_back(fmt::format("some of the {}", what));
    };
    note("project's own facts", rows_of(db, "key, body", "singles", [&](SQLite::Statement& row) {
           const std::string key = row.getColumn(1);
           if (auto value = parsed(row.getColumn(2)))
             document.singles[key] = std::make_shared<const Json>(std::move(*value));
           else
             lost.push_back(key);
         }));
    note("lists", rows_of(db, "key", "lists", [&](SQLite::Statement& row) {
           document.lists[row.getColumn(1).getString()];  // the empty ones too
         }));
    using Row = std::pair<int, JsonPtr>;
    std::map<std::string, std::vector<Row>> lists;
    const auto entity = [&](const std::string& list, const SQLite::Column& body, int place) {
      auto value = parsed(body);
      if (value && value->is_object() && value->contains("id") && (*value)["id"].is_string())
        lists[list].emplace_back(place, std::make_shared<const Json>(std::move(*value)));
      else
        lost.push_back("one of the " + list);
    };
    for (const std::string& list : own)
      note(list, rows_of(db, "body, place", list, [&](SQLite::Statement& row) {
             entity(list, row.getColumn(1), row.getColumn(2).getInt());
           }));
    note("kit", rows_of(db, "list, body, place", "others", [&](SQLite::Statement& row) {
           entity(row.getColumn(1), row.getColumn(2), row.getColumn(3).getInt());
         }));
    for (auto& [list, rows] : lists) {
      std::stable_sort(rows.begin(), rows.end(), [](const Row& a, const Row& b) { return a.first < b.first; });
      for (Row& row : rows) document.lists[list].push_back(std::move(row.second));
    }
    note("pictures", rows_of(db, "id, fields, bytes", "blobs", [&](SQLite::Statement& row) {
           auto fields = parsed(row.getColumn(2));
           if (!fields) return lost.push_back("a picture");
           const auto* data = static_cast<const unsigned char*>(row.getColumn(3).getBlob());
           Blob blob{std::move(*fields), {}};
           blob.bytes.assign(data, data + row.getColumn(3).getBytes());
           document.blobs[row.getColumn(1).getString()] = std::make_shared<const Blob>(std::move(blob));
         }));
  } catch (const std::exception& e) {
    return hopeless(e.what());
  }
  if (document.singles.empty() && document.lists.empty()) return hopeless("nothing in it can be read");
  const Document plain = empty_document(fs::path(path).stem().string());
  for (const auto& [key, value] : plain.singles)
    if (document.singles.try_emplace(key, value).second) lost.push_back("the " + key);
  mend(document, lost);
  if (!validate(document).empty()) return hopeless("what is left of it fits together no more");
  return std::make_unique<SalvagedStore>(path, std::move(document));
}

}  // namespace cinnabar
