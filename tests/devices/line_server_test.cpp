// The shipped program over its own socket: answers, who comes second, what is too long, and who leaves.
#include "cinnabar/devices/line_server.h"

#include <fcntl.h>
#include <signal.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstring>
#include <filesystem>
#include <fstream>
#include <utility>
#include <vector>

#include "private_folder.h"

namespace cinnabar {
namespace {

/// cinnabar-motion with these arguments, once it says that it listens or has ended.
class Program {
 public:
  explicit Program(const std::string& socket) : Program(std::vector<std::string>{"--socket", socket}) {}
  explicit Program(std::vector<std::string> words) {
    int said[2];
    if (::pipe2(said, O_CLOEXEC) != 0) return;
    pid_ = ::fork();
    if (pid_ == 0) {
      ::dup2(said[1], 1);
      ::close(2);
      words.insert(words.begin(), "cinnabar-motion");
      std::vector<char*> all;
      for (std::string& word : words) all.push_back(word.data());
      all.push_back(nullptr);
      ::execv(CINNABAR_MOTION, all.data());
      ::_exit(127);
    }
    ::close(said[1]);
    for (char c = 0; ::read(said[0], &c, 1) == 1 && c != '\n';) first_ += c;
    ::close(said[0]);
  }
  Program(const Program&) = delete;
  Program& operator=(const Program&) = delete;
  ~Program() {
    if (pid_ > 0) (void)ended(SIGKILL);
  }
  int ended(int signal = 0) {
    if (signal) ::kill(pid_, signal);
    int status = 0;
    ::waitpid(pid_, &status, 0);
    pid_ = -1;
    return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
  }
  /// The first line that it printed.
  [[nodiscard]] const std::string& first() const { return first_; }

 private:
  pid_t pid_ = -1;
  std::string first_;
};

class Client {
 public:
  explicit Client(const std::string& socket) {
    sockaddr_un address{};
    address.sun_family = AF_UNIX;
    std::memcpy(address.sun_path, socket.data(), socket.size());
    fd_ = ::socket(AF_UNIX, SOCK_STREAM, 0);
    if (::connect(fd_, reinterpret_cast<sockaddr*>(&address), sizeof address) != 0)
      ::close(std::exchange(fd_, -1));
    const timeval most{5, 0};
    if (fd_ >= 0) ::setsockopt(fd_, SOL_SOCKET, SO_RCVTIMEO, &most, sizeof most);
  }
  Client(const Client&) = delete;
  Client& operator=(const Client&) = delete;
  ~Client() {
    if (fd_ >= 0) ::close(fd_);
  }
  void send(const std::string& bytes) { (void)::send(fd_, bytes.data(), bytes.size(), MSG_NOSIGNAL); }
  /// The next line, or "gone".
  std::string line() {
    std::string out;
    for (char c = 0; ::recv(fd_, &c, 1, 0) == 1;) {
      if (c == '\n') return out;
      out += c;
    }
    return "gone";
  }
  std::string ask(const std::string& text) {
    send(text + "\n");
    return line();
  }

 private:
  int fd_ = -1;
};

// Own behaviour: answers in order, one at a time, gone with its socket.
TEST(LineServer, SpeaksOverItsSocketAndLeavesNothingBehind) {
  const FolderOfItsOwn folder;
  const std::string socket = folder.file("motion");
  Program program(socket);
  EXPECT_EQ(program.first(), "listening at " + socket);
  {
    Client client(socket);
    EXPECT_EQ(client.ask("hello"), "ok motion 1 XYZABC");
    struct stat is {};
    ASSERT_EQ(::stat(socket.c_str(), &is), 0);
    EXPECT_EQ(is.st_mode & 0777, 0600u) << "for its owner alone";
    client.send("hel");
    client.send("lo\r\nwhere\n");
    EXPECT_EQ(client.line(), "ok motion 1 XYZABC");
    EXPECT_TRUE(client.line().starts_with("ok idle "));
    Client second(socket);
    EXPECT_TRUE(second.line().starts_with("error busy"));
    EXPECT_EQ(second.line(), "gone");
    EXPECT_EQ(client.ask("jog X 500 50"), "ok");
  }
  {  // who started the move has gone: it was stopped
    Client next(socket);
    EXPECT_TRUE(next.ask("where").starts_with("ok stopped "));
    std::string released;  // refused until it is at rest
    for (int asked = 0; asked < 10000 && released != "ok"; ++asked) released = next.ask("release");
    EXPECT_EQ(released, "ok");
    EXPECT_EQ(next.ask("jog X 1 50"), "ok");
    EXPECT_EQ(next.line(), "done jog");
    next.send(std::string(9000, 'x'));
    EXPECT_EQ(next.line(), "gone") << "lines have an end";
  }
  Client last(socket);
  EXPECT_EQ(last.ask("hello"), "ok motion 1 XYZABC");
  EXPECT_EQ(program.ended(SIGTERM), 0);
  EXPECT_FALSE(std::filesystem::exists(socket));
}

// Own behaviour.
TEST(LineServer, TakesOverWhatIsLeftAndNothingElse) {
  const FolderOfItsOwn folder;
  const std::string socket = folder.file("motion"), file = folder.file("notes");
  std::ofstream(file) << "kept";
  EXPECT_EQ(Program(file).ended(), 1);
  std::string kept;
  std::ifstream(file) >> kept;
  EXPECT_EQ(kept, "kept");
  Program first(socket);
  EXPECT_EQ(Client(socket).ask("hello"), "ok motion 1 XYZABC");
  EXPECT_EQ(Program(socket).ended(), 1) << "one is served already";
  EXPECT_EQ(Client(socket).ask("hello"), "ok motion 1 XYZABC");
  (void)first.ended(SIGKILL);
  ASSERT_TRUE(std::filesystem::exists(socket));
  Program second(socket);
  EXPECT_EQ(Client(socket).ask("hello"), "ok motion 1 XYZABC") << "a socket that was left over is taken";
  EXPECT_EQ(Program(folder.file(std::string(120, 's'))).ended(), 2);
  EXPECT_EQ(Program("/nowhere/at/all").ended(), 1);
  const auto code = [](std::vector<std::string> words) {
    words.insert(words.end(), {"--socket", "/nowhere/at/all"});
    return Program(std::move(words)).ended();
  };
  EXPECT_EQ(code({"--step", "abc"}), 2);
  EXPECT_EQ(code({"--lag", "nan"}), 2);
  EXPECT_EQ(code({"--dance"}), 2);
  EXPECT_EQ(code({"--help"}), 0);
}

}  // namespace
}  // namespace cinnabar
