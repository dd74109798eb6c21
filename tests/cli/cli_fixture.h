// cinnabar-cli run as a script runs it, on a demo of the test's own.
#pragma once
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

namespace cinnabar::cli_tests {

namespace fs = std::filesystem;
using Json = nlohmann::json;

struct Answer {
  int code;
  std::string out, err;
  [[nodiscard]] Json json() const { return Json::parse(out, nullptr, false); }
};

class Cli : public testing::Test {
 protected:
  static void SetUpTestSuite() {
    std::string name = (fs::temp_directory_path() / "cinnabar-cli-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
    ASSERT_EQ(run("demo " + demo()).code, 0);
  }
  static void TearDownTestSuite() { fs::remove_all(folder_); }
  static std::string demo() { return (folder_ / "demo.cinnabar").string(); }
  static std::string file(const std::string& name) { return (folder_ / name).string(); }
  static std::string copied(const std::string& name) {
    fs::copy_file(demo(), file(name), fs::copy_options::overwrite_existing);
    return file(name);
  }
  static std::string text_of(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
  }
  /// For a shell, wherever the checkout stands.
  static std::string program() {
    std::string quoted = "'";
    for (const char c : std::string(CINNABAR_CLI)) quoted += c == '\'' ? "'\\''" : std::string(1, c);
    return quoted + "'";
  }
  static Answer run(const std::string& words) {
    const std::string err = (folder_ / "err").string();
    const std::string line = program() + " " + words + " 2>" + err;
    FILE* pipe = ::popen(line.c_str(), "r");
    std::string out;
    char buffer[4096];
    for (std::size_t n; (n = std::fread(buffer, 1, sizeof buffer, pipe)) > 0;) out.append(buffer, n);
    const int status = ::pclose(pipe);
    return {WEXITSTATUS(status), out, text_of(err)};
  }
  /// The same through bash, which knows $'\xE9'.
  static Answer shell(const std::string& words) {
    const std::string script = file("call.sh"), err = file("err");
    std::ofstream(script) << program() << " " << words << "\n";
    const int status = std::system(("bash " + script + " >/dev/null 2>" + err).c_str());
    return {WEXITSTATUS(status), {}, text_of(err)};
  }
  static inline fs::path folder_;
};

}  // namespace cinnabar::cli_tests
