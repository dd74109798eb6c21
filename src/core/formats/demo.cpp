#include "cinnabar/formats/demo.h"

#include <fmt/format.h>

#include <filesystem>

#include "cinnabar/base/files.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/store/store.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {
namespace fs = std::filesystem;

std::string data_folder(const std::string& relative) {
  std::error_code error;
  const fs::path program = fs::read_symlink("/proc/self/exe", error);
  if (const fs::path installed = program.parent_path().parent_path() / "share" / "cinnabar";
      fs::exists(installed / relative, error))
    return installed.string();
  // Not installed: the build stands somewhere within the sources.
  fs::path folder = program.parent_path();
  for (int up = 0; up < 5; ++up, folder = folder.parent_path())
    if (fs::exists(folder / relative, error)) return folder.string();
  return {};
}

namespace {

Expected<Json> read_json(const fs::path& path) {
  const auto text = read_file(path.string());
  if (!text) return tl::unexpected(text.error());
  return parse_json(*text, path.string());
}

Expected<void> replay(Store& store, const Json& step, const std::string& place) {
  if (step.contains("take")) {
    const Json& t = step["take"];
    const auto edit =
        take_edit(store.document(), {t.value("shot", ""), t.value("at", ""), t.value("kept", false),
                                     t.value("reasons", std::vector<std::string>{}), t.value("notes", "")});
    if (!edit) return tl::unexpected(edit.error());
    return store.apply(*edit);
  }
  Values values;
  for (const Json& change : step.at("set")) values.emplace_back(change.at(0).get<std::string>(), change.at(1));
  const auto edit = changed(store.document(), values, step.value("title", "Change"));
  if (!edit) return fail(place, edit.error().place + " " + edit.error().message, edit.error().mend, Fault::input);
  return store.apply(*edit);
}

Expected<fs::path> demo_folder() {
  const std::string root = data_folder("assets/demo/slow-burn/project.json");
  if (root.empty())
    return fail("demo", "the demo's data are not installed", "install Cinnabar again", Fault::input);
  return fs::path(root) / "assets" / "demo" / "slow-burn";
}

}  // namespace

Expected<Document> demo_document() {
  const auto at = demo_folder();
  if (!at) return tl::unexpected(at.error());
  const fs::path& folder = *at;
  auto project = read_json(folder / "project.json");
  if (!project) return tl::unexpected(project.error());
  if (project->contains("blobs"))
    for (auto& [id, blob] : (*project)["blobs"].items()) {
      if (!blob.contains("file")) continue;
      const auto bytes = read_file((folder / blob["file"].get<std::string>()).string());
      if (!bytes) return tl::unexpected(bytes.error());
      blob["data"] = base64_encoded({bytes->begin(), bytes->end()});
      blob.erase("file");
    }
  const auto faults = validate(*project);
  if (!faults.empty())
    return fail((folder / "project.json").string(), faults.front().path + " " + faults.front().message,
                faults.front().mend, Fault::input);
  return Document::from_json(*project);
}

Expected<void> make_demo(const std::string& out) {
  const auto folder = demo_folder();
  if (!folder) return tl::unexpected(folder.error());
  const auto document = demo_document();
  if (!document) return tl::unexpected(document.error());
  const auto log = read_json(*folder / "log.json");
  if (!log) return tl::unexpected(log.error());
  // Made beside its name with all its history, and only then put there.
  std::error_code ignored;
  if (fs::exists(out, ignored))
    return fail(out, "exists already", "choose another name, or remove it first", Fault::output);
  auto beside = FileBeside::at(out);
  if (!beside) return tl::unexpected(beside.error());
  fs::remove(beside->beside(), ignored);
  {
    const auto store = Store::create(beside->beside(), *document);
    if (!store) return tl::unexpected(store.error());
    std::size_t number = 0;
    for (const Json& step : *log)
      if (auto done = replay(**store, step, fmt::format("log.json/{}", number++)); !done) return done;
  }
  return beside->keep_new();
}

}  // namespace cinnabar
