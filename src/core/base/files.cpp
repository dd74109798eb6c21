#include "cinnabar/base/files.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <utility>

namespace cinnabar {
namespace {

namespace fs = std::filesystem;

/// A descriptor that closes itself.
class Descriptor {
 public:
  Descriptor(const std::string& path, int flags, mode_t mode = 0)
      : fd_(::open(path.c_str(), flags | O_CLOEXEC, mode)) {}
  Descriptor(const Descriptor&) = delete;
  Descriptor& operator=(const Descriptor&) = delete;
  ~Descriptor() { close(); }
  [[nodiscard]] int get() const { return fd_; }
  [[nodiscard]] bool open() const { return fd_ >= 0; }
  /// False where the system could not bring everything to the file (a full disk may tell only here).
  bool close() { return fd_ < 0 || ::close(std::exchange(fd_, -1)) == 0; }

 private:
  int fd_;
};

tl::unexpected<Error> not_written(const std::string& path, int reason) {
  return fail(
      path, fmt::format("could not be written ({}); what was there is as it was", std::strerror(reason)),
      reason == ENOSPC || reason == EDQUOT ? "make room on the disk" : "check the folder and its permissions",
      Fault::output);
}

bool write_all(int fd, std::string_view bytes) {
  while (!bytes.empty()) {
    const ssize_t done = ::write(fd, bytes.data(), bytes.size());
    if (done < 0 && errno == EINTR) continue;
    if (done < 0) return false;
    bytes.remove_prefix(static_cast<std::size_t>(done));
  }
  return true;
}

bool synchronised(const std::string& path, int flags) {
  const Descriptor file(path, flags);
  return file.open() && ::fsync(file.get()) == 0;
}

/// The file that a name leads to, through links that may lead to nothing yet.
std::string target_of(const std::string& path) {
  fs::path at = path;
  std::error_code error;
  for (int links = 0; links < 40 && fs::is_symlink(at, error); ++links) {
    const fs::path next = fs::read_symlink(at, error);
    at = next.is_absolute() ? next : at.parent_path() / next;
  }
  return at.string();
}

/// The project whose log would stand at this name; empty where none.
std::string project_of_log(const std::string& path) {
  for (const char* end : {"-wal", "-shm", "-journal"}) {
    const std::string ending = end;
    if (path.size() > ending.size() && path.ends_with(ending)) {
      std::string project = path.substr(0, path.size() - ending.size());
      if (is_project_file(project)) return project;
    }
  }
  return {};
}

}  // namespace

Expected<std::string> read_file(const std::string& path, std::uintmax_t most) {
  struct stat about {};
  if (::stat(path.c_str(), &about) != 0)
    return errno == EACCES ? fail(path, "cannot be read", "check its permissions", Fault::input)
                           : fail(path, "is not there", "check the name", Fault::input);
  if (S_ISDIR(about.st_mode)) return fail(path, "is a folder", "name a file", Fault::input);
  if (!S_ISREG(about.st_mode))
    return fail(path, "is no regular file", "copy its bytes to a file first", Fault::input);
  const Descriptor file(path, O_RDONLY | O_NONBLOCK);
  if (!file.open()) return fail(path, "cannot be read", "check its permissions", Fault::input);
  const auto too_large = [&] {
    return fail(path, fmt::format("is larger than {} MB", most >> 20), "give a smaller file", Fault::input);
  };
  if (static_cast<std::uintmax_t>(about.st_size) > most) return too_large();
  std::string bytes;
  bytes.reserve(static_cast<std::size_t>(about.st_size));
  std::array<char, 1 << 16> some{};
  for (;;) {
    const ssize_t got = ::read(file.get(), some.data(), some.size());
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return fail(path, "cannot be read", "check its permissions and the disk", Fault::input);
    if (got == 0) return bytes;
    if (bytes.size() + static_cast<std::size_t>(got) > most) return too_large();  // it grows while it is read
    bytes.append(some.data(), static_cast<std::size_t>(got));
  }
}

bool is_project_file(const std::string& path) {
  struct stat about {};
  if (::stat(path.c_str(), &about) != 0 || !S_ISREG(about.st_mode)) return false;
  const Descriptor file(path, O_RDONLY | O_NONBLOCK);
  std::array<unsigned char, 72> head{};
  if (!file.open() || ::read(file.get(), head.data(), head.size()) != static_cast<ssize_t>(head.size()))
    return false;
  const std::uint32_t id = std::uint32_t{head[68]} << 24 | std::uint32_t{head[69]} << 16 |
                           std::uint32_t{head[70]} << 8 | head[71];  // SQLite's file format, 1.3
  return std::memcmp(head.data(), "SQLite format 3", 16) == 0 && id == project_application_id;
}

bool same_file(const std::string& a, const std::string& b) {
  std::error_code error;
  return fs::equivalent(a, b, error) && !error;
}

Expected<FileBeside> FileBeside::at(const std::string& path) {
  const std::string place = target_of(path);
  struct stat about {};
  const bool there = ::stat(place.c_str(), &about) == 0;
  if (there && S_ISDIR(about.st_mode)) return fail(path, "is a folder", "name a file in it", Fault::output);
  if (there && !S_ISREG(about.st_mode))
    return fail(path, "is no regular file", "name another file", Fault::output);
  if (there && is_project_file(place))
    return fail(path, "is a project, which is never written over; nothing was written", "name another file",
                Fault::output);
  if (const std::string project = project_of_log(place); !project.empty())
    return fail(path, "is where " + project + " keeps its log; nothing was written", "name another file",
                Fault::output);
  const fs::path folder = fs::path(place).parent_path();
  const std::string stem = fs::path(place).filename().string().substr(0, 200);
  for (int n = 0; n < 1000; ++n) {
    const std::string beside = (folder / fmt::format(".{}.{}-{}", stem, ::getpid(), n)).string();
    const Descriptor made(beside, O_WRONLY | O_CREAT | O_EXCL, 0666);
    if (!made.open() && errno == EEXIST) continue;
    if (!made.open()) return not_written(path, errno);
    FileBeside out(place, beside);
    if (there && ::fchmod(made.get(), about.st_mode & 07777) != 0) return not_written(path, errno);
    return out;
  }
  return not_written(path, EEXIST);
}

FileBeside::FileBeside(FileBeside&& other) noexcept
    : place_(std::move(other.place_)), beside_(std::exchange(other.beside_, {})) {}

FileBeside::~FileBeside() {
  if (!beside_.empty()) ::unlink(beside_.c_str());
}

Expected<void> FileBeside::keep() { return put(0); }
Expected<void> FileBeside::keep_new() { return put(RENAME_NOREPLACE); }

Expected<void> FileBeside::put(unsigned flags) {
  if (!synchronised(beside_, O_RDONLY)) return not_written(place_, errno);
  int done = ::renameat2(AT_FDCWD, beside_.c_str(), AT_FDCWD, place_.c_str(), flags);
  if (done != 0 && errno == EINVAL && flags != 0) {  // a file system without that: a link does the same
    done = ::link(beside_.c_str(), place_.c_str());
    if (done == 0) ::unlink(beside_.c_str());
  }
  if (done != 0 && errno == EEXIST)
    return fail(place_, "exists already", "choose another name, or remove it first", Fault::output);
  if (done != 0) return not_written(place_, errno);
  beside_.clear();
  const std::string folder = fs::path(place_).parent_path().string();
  synchronised(folder.empty() ? "." : folder, O_RDONLY | O_DIRECTORY);  // some file systems have no such thing
  return {};
}

Expected<void> write_file(const std::string& path, std::string_view bytes) {
  struct stat about {};
  if (::stat(path.c_str(), &about) == 0 && (S_ISCHR(about.st_mode) || S_ISFIFO(about.st_mode))) {
    Descriptor there(path, O_WRONLY | O_NONBLOCK);  // a pipe that nobody reads refuses instead of waiting
    if (there.open()) ::fcntl(there.get(), F_SETFL, ::fcntl(there.get(), F_GETFL) & ~O_NONBLOCK);
    if (!there.open() || !write_all(there.get(), bytes) || !there.close()) return not_written(path, errno);
    return {};
  }
  auto beside = FileBeside::at(path);
  if (!beside) return tl::unexpected(beside.error());
  Descriptor file(beside->beside(), O_WRONLY | O_TRUNC);
  if (!file.open() || !write_all(file.get(), bytes) || !file.close()) return not_written(path, errno);
  return beside->keep();
}

}  // namespace cinnabar
