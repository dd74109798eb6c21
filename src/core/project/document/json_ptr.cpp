#include "cinnabar/project/document/json_ptr.h"

#include <algorithm>

#include "cinnabar/project/document/json_text.h"

namespace cinnabar {

const Json& StoredJson::value() const {
  std::call_once(once_, [this] {
    auto read = parsed_json(text_);
    const bool good = read && read->is_object() && read->contains("id") && (*read)["id"] == id_;
    damaged_ = !good;
    value_ = good ? std::move(*read) : Json{{"id", id_}};
  });
  return value_;
}

void StoredRows::add(std::string_view id, std::string_view text, int place) {
  constexpr std::size_t piece = 1 << 18;
  const std::size_t size = id.size() + text.size();
  if (pieces_.empty() || pieces_.back().capacity() - pieces_.back().size() < size)
    pieces_.emplace_back().reserve(std::max(piece, size));
  std::string& into = pieces_.back();
  const std::size_t from = into.size();
  into.append(id).append(text);
  const std::string_view all = into;
  rows_.push_back({place, all.substr(from, id.size()), all.substr(from + id.size())});
}

std::vector<JsonPtr> StoredRows::taken() && {
  const auto by_place = [](const Row& a, const Row& b) { return a.place < b.place; };
  if (!std::is_sorted(rows_.begin(), rows_.end(), by_place))
    std::stable_sort(rows_.begin(), rows_.end(), by_place);
  struct Block {
    std::deque<std::string> pieces;
    std::deque<StoredJson> cells;
  };
  const auto block = std::make_shared<Block>();
  block->pieces = std::move(pieces_);
  std::vector<JsonPtr> out;
  out.reserve(rows_.size());
  for (const Row& row : rows_) {
    block->cells.emplace_back(row.id, row.text);
    out.emplace_back(std::shared_ptr<const StoredJson>(block, &block->cells.back()));
  }
  return out;
}

}  // namespace cinnabar
