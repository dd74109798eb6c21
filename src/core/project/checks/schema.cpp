#include "cinnabar/project/checks/schema.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "cinnabar/project/model/fields.h"

namespace cinnabar {
namespace {

using Out = nlohmann::ordered_json;

/// 3 and not 3.0.
Out plain(double v) {
  return v == std::floor(v) && std::abs(v) < 1e15 ? Out(static_cast<std::int64_t>(v)) : Out(v);
}

Out of_range(const Range& range) {
  Out out{{"type", range.whole ? "integer" : "number"}};
  if (std::isfinite(range.low)) out[range.low_open ? "exclusiveMinimum" : "minimum"] = plain(range.low);
  if (std::isfinite(range.high)) out[range.high_open ? "exclusiveMaximum" : "maximum"] = plain(range.high);
  return out;
}

Out list_of(Out items, std::size_t most) {
  return {{"type", "array"}, {"items", std::move(items)}, {"maxItems", most}};
}

class Writing {
 public:
  Out object_of(const Fields& fields) {
    Out properties = Out::object(), required = Out::array();
    for (const FieldRow& row : fields.rows) {
      if (!counts_only_in_cases(fields, row)) properties[row.key] = of(row, row.required);
      if (row.required) required.push_back(row.key);
    }
    Out out{{"type", "object"}, {"properties", std::move(properties)}};
    if (!required.empty()) out["required"] = std::move(required);
    if (!fields.any_of.empty()) {
      out["anyOf"] = Out::array();
      for (const Names& set : fields.any_of) out["anyOf"].push_back(needing(fields, set));
    }
    if (!fields.cases.empty()) {
      out["allOf"] = Out::array();
      for (const FieldCase& c : fields.cases)
        out["allOf"].push_back(
            {{"if", {{"properties", {{c.key, {{"const", c.value}}}}}, {"required", Out::array({c.key})}}},
             {"then", needing(fields, c.needed)}});
    }
    return out;
  }

  Out definitions() {
    Out out = Out::object();
    for (const auto& [name, fields] : shared_) out[name] = object_of(*fields);
    return out;
  }

 private:
  static bool counts_only_in_cases(const Fields& fields, const FieldRow& row) {
    return fields.only_in_cases && std::any_of(fields.cases.begin(), fields.cases.end(), [&](const FieldCase& c) {
             return std::find(c.needed.begin(), c.needed.end(), row.key) != c.needed.end();
           });
  }
  Out needing(const Fields& fields, const Names& keys) {
    Out properties = Out::object();
    for (const std::string& key : keys) properties[key] = of(*fields.field(key), true);
    return {{"properties", std::move(properties)}, {"required", keys}};
  }

  Out of(const FieldRow& row, bool needed) {
    Out out = bare(row);
    if (!row.schema.is_null() && row.kept != Kept::own)
      for (const auto& [key, value] : row.schema.items()) out[key] = value;
    if (!row.note.empty()) out["description"] = row.note;
    if (needed) return out;
    // What may be left out may be null.
    if (out.contains("$ref")) {
      Out any = Out::array({{{"$ref", out["$ref"]}}, {{"type", "null"}}});
      out.erase("$ref");
      out["anyOf"] = std::move(any);
    } else if (out.contains("enum")) {
      out["enum"].push_back(nullptr);
    } else {
      out["type"] = Out::array({out["type"], "null"});
    }
    return out;
  }

  Out bare(const FieldRow& row) {
    switch (row.kept) {
      case Kept::number:
        return of_range(row.range);
      case Kept::text:
      case Kept::reference:
      case Kept::blob:
        return row.key == "id" ? Out{{"type", "string"}, {"minLength", 1}} : Out{{"type", "string"}};
      case Kept::flag:
        return {{"type", "boolean"}};
      case Kept::rate:
        return {{"type", "string"},
                {"pattern", "^[0-9.eE+]*[1-9][0-9.eE+]*(/[0-9.eE+]*[1-9][0-9.eE+]*)?$"},
                {"description", "frames per second: 24, 25, 24000/1001"}};
      case Kept::choice:
        return {{"enum", row.names}};
      case Kept::numbers:
        return {
            {"type", "array"}, {"items", of_range(row.range)}, {"minItems", row.count}, {"maxItems", row.count}};
      case Kept::texts:
        return {{"type", "array"}, {"items", {{"type", "string"}}}};
      case Kept::rising:
        return list_of({{"type", "array"},
                        {"items", Out::array({of_range({-1e6, 1e6}), of_range(row.range)})},
                        {"minItems", 2},
                        {"maxItems", 2}},
                       10000);
      case Kept::object:
        return reference_to(*row.inner);
      case Kept::entities:
      case Kept::objects:
        return list_of(object_of(*row.inner), 100000);
      case Kept::own:
        return row.schema;
    }
    return Out::object();
  }

  /// What several entities have is defined once.
  Out reference_to(const Fields& fields) {
    if (&fields == &material_fields() || &fields == &house_rules_fields()) {
      const char* name = &fields == &material_fields() ? "material" : "house_rules";
      shared_.emplace(name, &fields);
      return {{"$ref", std::string("#/definitions/") + name}};
    }
    return object_of(fields);
  }

  std::map<std::string, const Fields*> shared_;
};

}  // namespace

Out project_schema() {
  Writing w;
  Out properties{{"format", {{"const", "cinnabar-project"}}}, {"version", {{"const", 1}}}};
  properties["project"] = w.object_of(project_fields());
  properties["house_rules"] = {
      {"anyOf", Out::array({{{"$ref", "#/definitions/house_rules"}}, {{"type", "null"}}})}};
  const Out bound{{"type", Out::array({"number", "null"})}};
  properties["bands"] = {
      {"type", Out::array({"object", "null"})},
      {"description", "the user's own bands by level id"},
      {"additionalProperties",
       {{"type", "object"},
        {"properties",
         {{"low", bound},
          {"high", bound},
          {"reason",
           {{"type", Out::array({"string", "null"})}, {"description", "Why this spot wants another band"}}}}}}}};
  properties["blobs"] = {{"type", Out::array({"object", "null"})},
                         {"description", "Pictures, meshes and measured lights by id, in base64 (RFC 4648)"},
                         {"additionalProperties",
                          {{"type", "object"},
                           {"properties",
                            {{"type", {{"type", Out::array({"string", "null"})}}},
                             {"data", {{"type", "string"}, {"pattern", "^[A-Za-z0-9+/]*={0,2}$"}}}}},
                           {"required", Out::array({"data"})}}}};
  Out kit = Out::object();
  for (const auto& [list, fields] : entity_fields()) {
    Out items = w.object_of(*fields);
    Out value{{"type", Out::array({"array", "null"})},
              {"items", std::move(items)},
              {"maxItems", list == "takes" ? 1000000 : 100000}};
    if (list.starts_with("kit/"))
      kit[list.substr(4)] = std::move(value);
    else
      properties[list] = std::move(value);
  }
  properties["kit"] = {{"type", Out::array({"object", "null"})}, {"properties", std::move(kit)}};
  Out schema{
      {"$schema", "http://json-schema.org/draft-07/schema#"},
      {"title", "Cinnabar project"},
      {"description",
       "Metres, seconds, kelvin, lux, lumens; angles in degrees with the suffix _deg. Unknown members are kept."},
      {"type", "object"},
      {"required", Out::array({"format", "version", "project"})},
      {"properties", std::move(properties)}};
  schema["definitions"] = w.definitions();
  return schema;
}

}  // namespace cinnabar
