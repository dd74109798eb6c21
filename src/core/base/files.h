// Whole files in and out. Nothing that was whole is ever left half-written: a file is written beside its name,
// synchronised, and then put in its place.
#pragma once
#include <cstdint>
#include <string>
#include <string_view>

#include "cinnabar/base/result.h"

namespace cinnabar {

inline constexpr std::uintmax_t most_read = std::uintmax_t{256}
                                            << 20;  // bytes; no input of this program is larger

/// Whole bytes of a regular file of at most `most` bytes; the error names it. Folders, devices and pipes are
/// refused before they are opened.
[[nodiscard]] Expected<std::string> read_file(const std::string& path, std::uintmax_t most = most_read);

/// A file that somebody else writes (a library that wants a name): write to `beside()`, then `keep()` puts it in
/// its place. Until then what was there is untouched; dropped, nothing is left behind.
class FileBeside {
 public:
  /// Fails where the folder will not take it, where a folder or a project stands at the name, or where the name is
  /// one of those that a project keeps its log under.
  [[nodiscard]] static Expected<FileBeside> at(const std::string& path);
  FileBeside(FileBeside&& other) noexcept;
  FileBeside& operator=(FileBeside&&) = delete;
  FileBeside(const FileBeside&) = delete;
  FileBeside& operator=(const FileBeside&) = delete;
  ~FileBeside();

  [[nodiscard]] const std::string& beside() const { return beside_; }
  [[nodiscard]] Expected<void> keep();
  /// The same for a name that must still be free: what stands there by now is left alone.
  [[nodiscard]] Expected<void> keep_new();

 private:
  [[nodiscard]] Expected<void> put(unsigned flags);
  FileBeside(std::string place, std::string beside) : place_(std::move(place)), beside_(std::move(beside)) {}
  std::string place_, beside_;
};

/// Writes a file whole, as FileBeside does. A device or a pipe that stands there takes the bytes itself.
[[nodiscard]] Expected<void> write_file(const std::string& path, std::string_view bytes);

/// True where a project stands at the name: an SQLite file with this program's application id.
[[nodiscard]] bool is_project_file(const std::string& path);
inline constexpr std::uint32_t project_application_id = 0x43494E4E;  // "CINN"

/// True where both names lead to the same file.
[[nodiscard]] bool same_file(const std::string& a, const std::string& b);

}  // namespace cinnabar
