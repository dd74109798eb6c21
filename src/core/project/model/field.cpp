#include "cinnabar/project/model/field.h"

namespace cinnabar {

const FieldRow* Fields::field(const std::string& key) const {
  for (const FieldRow& row : rows)
    if (row.key == key) return &row;
  return nullptr;
}

void read_fields(const Fields& fields, const Json& json, void* entity) {
  for (const FieldRow& row : fields.rows) {
    if (!row.bound && !row.read) continue;
    const auto found = json.find(row.key);
    if (found == json.end() || found->is_null()) continue;
    row.bound ? row.bound(row, *found, static_cast<std::byte*>(entity) + row.offset) : row.read(*found, entity);
  }
}

FieldRow number(std::string key, const Range& range) { return {std::move(key), Kept::number, range}; }
FieldRow text(std::string key) { return {std::move(key), Kept::text}; }
FieldRow flag(std::string key) { return {std::move(key), Kept::flag}; }
FieldRow rate(std::string key) { return {std::move(key), Kept::rate}; }
FieldRow open_choice(std::string key, const Names& names) {
  FieldRow row = text(std::move(key));
  row.names = names;
  return row;
}
FieldRow choice(std::string key, const Names& names) {
  FieldRow row{std::move(key), Kept::choice};
  row.names = names;
  return row;
}
FieldRow numbers(std::string key, std::size_t count, const Range& each) {
  FieldRow row{std::move(key), Kept::numbers, each};
  row.count = count;
  return row;
}
FieldRow texts(std::string key, std::string example) {
  FieldRow row{std::move(key), Kept::texts};
  row.else_mend = std::move(example);
  return row;
}
FieldRow rising(std::string key, const Range& values) { return {std::move(key), Kept::rising, values}; }
FieldRow reference(std::string key, std::string list) {
  FieldRow row{std::move(key), Kept::reference};
  row.list = std::move(list);
  return row;
}
FieldRow blob(std::string key, BlobUse use, std::string else_mend) {
  FieldRow row{std::move(key), Kept::blob};
  row.use = use;
  row.else_mend = std::move(else_mend);
  return row;
}
namespace {
FieldRow nested(std::string key, Kept kept, const Fields& inner) {
  FieldRow row{std::move(key), kept};
  row.inner = &inner;
  return row;
}
}  // namespace
FieldRow object(std::string key, const Fields& inner) { return nested(std::move(key), Kept::object, inner); }
FieldRow entities(std::string key, const Fields& inner) { return nested(std::move(key), Kept::entities, inner); }
FieldRow objects(std::string key, const Fields& inner) { return nested(std::move(key), Kept::objects, inner); }
FieldRow own(std::string key, Json schema) {
  FieldRow row{std::move(key), Kept::own};
  row.schema = std::move(schema);
  return row;
}

const Fields* fields_of(const std::string& list) {
  for (const auto& [name, fields] : entity_fields())
    if (name == list) return fields;
  return nullptr;
}

}  // namespace cinnabar
