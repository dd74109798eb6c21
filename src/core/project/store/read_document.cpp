// A project for reading from either of its forms.
#include <fmt/format.h>

#include "cinnabar/base/files.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/store/store.h"

namespace cinnabar {

Expected<Document> read_document(const std::string& path) {
  const auto store = Store::open(path, Access::read);
  if (store) return (*store)->document();
  if (store.error().cause != Cause::json) return tl::unexpected(store.error());
  const auto text = read_file(path);
  if (!text) return tl::unexpected(text.error());
  const auto value = parse_json(*text, path);
  if (!value) return tl::unexpected(value.error());
  const auto faults = validate(*value);
  if (!faults.empty())
    return fail(path,
                fmt::format("has {} fault{}; the first: {} {}", faults.size(), faults.size() == 1 ? "" : "s",
                            faults.front().path, faults.front().message),
                faults.front().mend, Fault::input);
  return Document::from_json(*value);
}

}  // namespace cinnabar
