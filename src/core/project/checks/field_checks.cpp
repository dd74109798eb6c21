// Entities held against the rows of their fields.
#include <algorithm>

#include "cinnabar/project/checks/checks.h"

namespace cinnabar {
namespace {

/// Whether a field is needed here, and whether it counts at all: fields that choices name may count only under
/// them.
struct Wanted {
  bool needed, counts;
};
Wanted wanted(const Object& o, const Fields& fields, const FieldRow& row) {
  bool named = false, chosen = false;
  for (const FieldCase& c : fields.cases) {
    if (std::find(c.needed.begin(), c.needed.end(), row.key) == c.needed.end()) continue;
    named = true;
    const auto choice = o.is_object() ? o.value().find(c.key) : o.value().end();
    chosen = chosen || (o.is_object() && choice != o.value().end() && *choice == c.value);
  }
  return {row.required || chosen, !named || chosen || !fields.only_in_cases};
}

void check_row(const Object& o, const FieldRow& row, bool needed, const Ids& ids) {
  switch (row.kept) {
    case Kept::number:
      o.number(row.key, row.range, needed);
      return;
    case Kept::text:
      o.text(row.key, needed);
      return;
    case Kept::flag:
      o.flag(row.key);
      return;
    case Kept::rate:
      o.rate(row.key, needed);
      return;
    case Kept::choice:
      o.one_of(row.key, row.names, needed);
      return;
    case Kept::numbers:
      o.numbers(row.key, row.count, row.range, needed);
      return;
    case Kept::texts:
      o.texts(row.key, row.else_mend);
      return;
    case Kept::rising:
      o.rising(row.key, row.range, needed);
      return;
    case Kept::reference:
      reference(o, row.key, ids, row.list, needed);
      return;
    case Kept::blob:
      blob_reference(o, row.key, ids, row.use, row.else_mend);
      return;
    case Kept::object:
      if (const auto inner = o.object(row.key, needed)) check_fields(*inner, *row.inner, ids);
      return;
    case Kept::entities:
      identified(
          o, row.key, [&](const Object& item) { check_fields(item, *row.inner, ids); }, needed);
      return;
    case Kept::objects:
      o.list(
          row.key,
          [&](const Object& item) {
            if (item.is_object()) check_fields(item, *row.inner, ids);
          },
          needed);
      return;
    case Kept::own:
      return;
  }
}

}  // namespace

void check_fields(const Object& o, const Fields& fields, const Ids& ids) {
  if (!o.is_object()) return;
  for (const FieldRow& row : fields.rows) {
    if (row.key == "id") continue;  // its list has looked at it
    const auto [needed, counts] = wanted(o, fields, row);
    if (counts) check_row(o, row, needed, ids);
  }
  if (const More more = more_of(fields)) more(o, ids);
}

}  // namespace cinnabar
