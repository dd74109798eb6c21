// The project on disk: SQLite, one transaction per edit, history for undo and redo across restarts.
#pragma once
#include <functional>
#include <memory>

#include "cinnabar/project/document/document.h"
#include "cinnabar/project/document/edit.h"

namespace cinnabar {

enum class Access { read, write };

/// One entity at two moments of the history.
struct EntityChange {
  std::string list, id;
  std::optional<Json> before, after;
};

struct KeptVersion {
  std::string name, at;
};

/// An open project file. What `apply` acknowledged is on the disk. Only one writer at a time: the lock is the
/// operating system's and dies with the process. Not to be used from two threads at once.
class Store {
 public:
  /// Makes a new file; an existing one is refused.
  [[nodiscard]] static Expected<std::unique_ptr<Store>> create(const std::string& path, const Document& document);
  /// Opens a project. Refused with the reason: missing, empty, foreign, damaged, newer, or already open for
  /// writing.
  /// A file of an older layout is brought up to date when it is opened for writing, after a copy of it was laid
  /// beside it (NAME.v1.cinnabar).
  [[nodiscard]] static Expected<std::unique_ptr<Store>> open(const std::string& path, Access access);
  /// What can still be read of a damaged project, for looking at and copying: nothing can be written to it, and
  /// the file is not touched. `lost` says in words what could not be read. Fails where nothing can.
  [[nodiscard]] static Expected<std::unique_ptr<Store>> salvage(const std::string& path,
                                                                std::vector<std::string>& lost);
  virtual ~Store() = default;

  [[nodiscard]] virtual const Document& document() const = 0;
  [[nodiscard]] virtual const std::string& path() const = 0;
  /// Where the file is now if it was moved while open; empty while it is where it was opened. Writing goes on
  /// there.
  [[nodiscard]] virtual std::string moved_to() const { return {}; }

  /// Keeps one edit; what had been undone before it is forgotten. An edit without changes is nothing.
  virtual Expected<void> apply(const Edit& edit) = 0;
  /// Takes back (or does again) one edit; the answer is that edit, or nothing when there is none.
  virtual Expected<std::optional<Edit>> undo() = 0;
  virtual Expected<std::optional<Edit>> redo() = 0;
  /// Title of the edit that undo or redo would act on; empty when there is none.
  [[nodiscard]] virtual std::string undo_title() const = 0;
  [[nodiscard]] virtual std::string redo_title() const = 0;

  /// Entities of `lists` that differ between the moments two takes were logged; nothing when either is not in
  /// the history (an imported log).
  [[nodiscard]] virtual Expected<std::optional<std::vector<EntityChange>>> changes_between_takes(
      const std::string& earlier_take, const std::string& later_take) const = 0;
  /// The same from a take to now.
  [[nodiscard]] virtual Expected<std::optional<std::vector<EntityChange>>> changes_since_take(
      const std::string& take) const = 0;

  virtual Expected<void> keep_version(const std::string& name) = 0;
  [[nodiscard]] virtual Expected<std::vector<KeptVersion>> versions() const = 0;
  /// The document as it was when the version of that number (from 0, in the order of `versions`) was kept.
  [[nodiscard]] virtual Expected<Document> version(std::size_t number) const = 0;
};

/// A project for reading, from its file or from its exported JSON (which is validated).
[[nodiscard]] Expected<Document> read_document(const std::string& path);

}  // namespace cinnabar
