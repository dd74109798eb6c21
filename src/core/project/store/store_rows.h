// How entities, changes and pictures lie in the rows of a project's tables. For the store only.
#pragma once
#include <SQLiteCpp/SQLiteCpp.h>

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/project/document/edit.h"

namespace cinnabar {

/// Lists with a table of their own; the others lie together in `others`.
[[nodiscard]] bool has_own_table(const std::string& list);

/// JSON as a row holds it; throws std::runtime_error where it is none.
[[nodiscard]] Json stored(const SQLite::Column& column);
[[nodiscard]] std::optional<Json> maybe_json(const SQLite::Column& column);
[[nodiscard]] std::optional<int> maybe_int(const SQLite::Column& column);

/// Replaces each blob's bytes in a version's document by the number of their one copy.
void put_away_blobs(SQLite::Database& db, Json& document);
void fetch_blobs(SQLite::Database& db, Json& document);

/// Writes rows with statements that are made ready once a transaction.
class RowWriter {
 public:
  explicit RowWriter(SQLite::Database& db) : db_(db) {}
  /// Statements live within one transaction: a failed one would hold on to what is rolled back.
  class Transaction {
   public:
    explicit Transaction(RowWriter& writer) : writer_(writer) {}
    Transaction(const Transaction&) = delete;
    Transaction& operator=(const Transaction&) = delete;
    ~Transaction() { writer_.written_.clear(); }

   private:
    RowWriter& writer_;
  };

  void blob(const std::string& id, const Json& fields, const std::vector<unsigned char>& bytes);
  void entity(const Change& change);
  void change(std::int64_t seq, const Change& change);
  /// Number of the last edit that holds from now on.
  void done(std::int64_t seq);

 private:
  SQLite::Statement& write(const std::string& sql);
  SQLite::Database& db_;
  std::map<std::string, std::unique_ptr<SQLite::Statement>> written_;
};

}  // namespace cinnabar
