#include "cinnabar/project/store/store_rows.h"

#include <fmt/format.h>

#include <set>
#include <stdexcept>

#include "cinnabar/project/document/json_text.h"

namespace cinnabar {

bool has_own_table(const std::string& list) {
  static const std::set<std::string> own{"deliverables", "products", "setups", "shots", "takes"};
  return own.contains(list);
}

Json stored(const SQLite::Column& column) {
  auto value = parsed_json({column.getText(), static_cast<std::size_t>(column.getBytes())});
  if (!value) throw std::runtime_error("a row is no JSON that can be read");
  return std::move(*value);
}

std::optional<Json> maybe_json(const SQLite::Column& column) {
  return column.isNull() ? std::nullopt : std::optional(stored(column));
}

std::optional<int> maybe_int(const SQLite::Column& column) {
  return column.isNull() ? std::nullopt : std::optional(column.getInt());
}

void put_away_blobs(SQLite::Database& db, Json& document) {
  if (!document.contains("blobs") || !document["blobs"].is_object()) return;
  for (auto& [id, blob] : document["blobs"].items()) {
    const auto bytes = base64_decoded(blob.value("data", "")).value_or(std::vector<unsigned char>{});
    if (!blob.contains("data")) continue;
    SQLite::Statement find(db, "SELECT id FROM kept_blobs WHERE bytes = ?");
    find.bind(1, bytes.data(), static_cast<int>(bytes.size()));
    std::int64_t number = 0;
    if (find.executeStep()) {
      number = find.getColumn(0).getInt64();
    } else {
      SQLite::Statement put(db, "INSERT INTO kept_blobs (bytes) VALUES (?)");
      put.bind(1, bytes.data(), static_cast<int>(bytes.size()));
      put.exec();
      number = db.getLastInsertRowid();
    }
    blob.erase("data");
    blob["kept"] = number;
  }
}

void fetch_blobs(SQLite::Database& db, Json& document) {
  if (!document.contains("blobs") || !document["blobs"].is_object()) return;
  for (auto& [id, blob] : document["blobs"].items()) {
    if (!blob.contains("kept")) continue;  // as an older layout kept it
    SQLite::Statement find(db, "SELECT bytes FROM kept_blobs WHERE id = ?");
    find.bind(1, blob["kept"].get<std::int64_t>());
    if (!find.executeStep()) continue;
    const auto* data = static_cast<const unsigned char*>(find.getColumn(0).getBlob());
    blob["data"] = base64_encoded(std::vector<unsigned char>(data, data + find.getColumn(0).getBytes()));
    blob.erase("kept");
  }
}

SQLite::Statement& RowWriter::write(const std::string& sql) {
  auto& kept = written_[sql];
  if (!kept) kept = std::make_unique<SQLite::Statement>(db_, sql);
  kept->reset();
  kept->clearBindings();
  return *kept;
}

void RowWriter::done(std::int64_t seq) {
  auto& put = write("INSERT OR REPLACE INTO state (name, value) VALUES ('done', ?)");
  put.bind(1, seq);
  put.exec();
}

void RowWriter::blob(const std::string& id, const Json& fields, const std::vector<unsigned char>& bytes) {
  auto& put = write("INSERT OR REPLACE INTO blobs (id, fields, bytes) VALUES (?, ?, ?)");
  put.bind(1, id);
  put.bind(2, json_text(fields));
  put.bind(3, bytes.data(), static_cast<int>(bytes.size()));
  put.exec();
}

void RowWriter::entity(const Change& change) {
  const bool own = has_own_table(change.list);
  if (change.list == "blobs") {
    if (!change.after) {
      auto& drop = write("DELETE FROM blobs WHERE id = ?");
      drop.bind(1, change.id);
      drop.exec();
      return;
    }
    Json fields = *change.after;
    const auto bytes = base64_decoded(fields.value("data", "")).value_or(std::vector<unsigned char>{});
    fields.erase("data");
    blob(change.id, fields, bytes);
    return;
  }
  const bool single = change.list.empty(), presence = !single && change.id.empty();
  const std::string table = single ? "singles" : presence ? "lists" : own ? change.list : "others";
  const std::string& key = presence ? change.list : change.id;
  if (!change.after) {
    auto& drop = write(fmt::format("DELETE FROM {} WHERE {} = ?{}", table, single || presence ? "key" : "id",
                                   table == "others" ? " AND list = ?" : ""));
    drop.bind(1, key);
    if (table == "others") drop.bind(2, change.list);
    drop.exec();
    return;
  }
  if (presence) {
    auto& put = write("INSERT OR REPLACE INTO lists (key) VALUES (?)");
    put.bind(1, key);
    put.exec();
    return;
  }
  auto& put = write(single ? "INSERT OR REPLACE INTO singles (key, body) VALUES (?, ?)"
                    : own  ? "INSERT OR REPLACE INTO " + table + " (id, body, place) VALUES (?, ?, ?)"
                           : "INSERT OR REPLACE INTO others (id, body, place, list) VALUES (?, ?, ?, ?)");
  put.bind(1, key);
  put.bind(2, json_text(*change.after));
  if (!single) put.bind(3, change.place_after.value_or(0));
  if (table == "others") put.bind(4, change.list);
  put.exec();
}

void RowWriter::change(std::int64_t seq, const Change& c) {
  auto& put = write("INSERT INTO changes VALUES (?, ?, ?, ?, ?, ?, ?)");
  put.bind(1, seq);
  put.bind(2, c.list);
  put.bind(3, c.id);
  c.before ? put.bind(4, json_text(*c.before)) : put.bind(4);
  c.after ? put.bind(5, json_text(*c.after)) : put.bind(5);
  c.place_before ? put.bind(6, *c.place_before) : put.bind(6);
  c.place_after ? put.bind(7, *c.place_after) : put.bind(7);
  put.exec();
}

}  // namespace cinnabar
