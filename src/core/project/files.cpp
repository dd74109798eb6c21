// Whole files in and out, and a project for reading from either of its forms.
#include <fmt/format.h>

#include <filesystem>
#include <fstream>
#include <sstream>

#include "cinnabar/project/store.h"
#include "cinnabar/project/validation.h"

namespace cinnabar {

namespace fs = std::filesystem;

Expected<Document> read_document(const std::string& path) {
  const auto store = Store::open(path, Access::read);
  if (store) return (*store)->document();
  if (store.error().message != "is JSON, not a project file") return tl::unexpected(store.error());
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

Expected<std::string> read_file(const std::string& path) {
  std::error_code error;
  if (!fs::exists(path, error)) return fail(path, "is not there", "check the name", Fault::input);
  if (fs::is_directory(path, error)) return fail(path, "is a folder", "name a file", Fault::input);
  if (fs::is_regular_file(path, error) && fs::file_size(path, error) > (std::uintmax_t(1) << 30))
    return fail(path, "is larger than 1 GiB", "give a project's JSON", Fault::input);
  std::ifstream file(path, std::ios::binary);
  std::ostringstream text;
  if (!file || !(text << file.rdbuf() || file.eof()))
    return file ? Expected<std::string>(std::string())
                : fail(path, "cannot be read", "check its permissions", Fault::input);
  return text.str();
}

Expected<void> write_file(const std::string& path, std::string_view text) {
  std::ofstream file(path, std::ios::binary | std::ios::trunc);
  file.write(text.data(), static_cast<std::streamsize>(text.size()));
  file.flush();
  if (!file)
    return fail(path, "could not be written", "check the folder, its permissions and the room on the disk",
                Fault::output);
  return {};
}

}  // namespace cinnabar
