// A folder of a test's own, which goes with it.
#pragma once
#include <gtest/gtest.h>
#include <stdlib.h>

#include <filesystem>
#include <fstream>
#include <string>

namespace cinnabar {

class FolderOfItsOwn {
 public:
  FolderOfItsOwn() {
    std::string name = (std::filesystem::temp_directory_path() / "cinnabar-test-XXXXXX").string();
    path_ = ::mkdtemp(name.data());
  }
  FolderOfItsOwn(const FolderOfItsOwn&) = delete;
  FolderOfItsOwn& operator=(const FolderOfItsOwn&) = delete;
  ~FolderOfItsOwn() {
    std::error_code ignored;
    std::filesystem::remove_all(path_, ignored);
  }
  [[nodiscard]] const std::filesystem::path& path() const { return path_; }
  [[nodiscard]] std::string file(const std::string& name) const { return (path_ / name).string(); }
  [[nodiscard]] std::string written(const std::string& name, std::string_view bytes) const {
    std::ofstream(path_ / name, std::ios::binary) << bytes;
    return file(name);
  }
  [[nodiscard]] std::size_t entries() const {
    return static_cast<std::size_t>(
        std::distance(std::filesystem::directory_iterator(path_), std::filesystem::directory_iterator()));
  }

 private:
  std::filesystem::path path_;
};

inline std::string bytes_of(const std::string& path) {
  std::ifstream in(path, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}

}  // namespace cinnabar
