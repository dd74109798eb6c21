#include "cinnabar/devices/line_server.h"

#include <fcntl.h>
#include <poll.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <utility>

#include "cinnabar/base/words.h"

namespace cinnabar {
namespace {

constexpr std::size_t longest = 4096, most_unsent = 1 << 20;

/// A descriptor that is closed when it goes.
class Handle {
 public:
  explicit Handle(int fd = -1) : fd_(fd) {}
  Handle(const Handle&) = delete;
  Handle& operator=(const Handle&) = delete;
  ~Handle() { reset(); }
  void reset(int fd = -1) {
    if (fd_ >= 0) ::close(fd_);
    fd_ = fd;
  }
  [[nodiscard]] int get() const { return fd_; }
  [[nodiscard]] int release() { return std::exchange(fd_, -1); }
  explicit operator bool() const { return fd_ >= 0; }

 private:
  int fd_;
};

sockaddr_un address_of(const std::string& path) {
  sockaddr_un out{};
  out.sun_family = AF_UNIX;
  std::memcpy(out.sun_path, path.data(), path.size());
  return out;
}

/// Whether a socket at this path is free to be made: where one is left over, it is taken away.
Expected<bool> make_way(const std::string& path) {
  struct stat is {};
  if (::lstat(path.c_str(), &is) != 0) return true;
  if (!S_ISSOCK(is.st_mode))
    return fail(path, said("is there already and is no socket"), "name another path", Fault::output);
  const Handle probe(::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0));
  const sockaddr_un address = address_of(path);
  if (probe && ::connect(probe.get(), reinterpret_cast<const sockaddr*>(&address), sizeof address) == 0)
    return fail(path, said("is served already"), "stop the other one, or name another path", Fault::output);
  if (::unlink(path.c_str()) != 0)
    return fail(path, said("is left over and cannot be taken away"), "name another path", Fault::output);
  return true;
}

/// One conversation: what has come and not yet ended in a line, what has still to go.
class Talk {
 public:
  Handle socket;
  /// Reads what is there and answers its lines; false when it is over.
  bool hear(const LineServer& server) {
    char bytes[4096];
    const ssize_t got = ::recv(socket.get(), bytes, sizeof bytes, 0);
    if (got == 0 || (got < 0 && errno != EAGAIN && errno != EINTR)) return false;
    if (got > 0) heard_.append(bytes, static_cast<std::size_t>(got));
    std::size_t from = 0;
    for (std::size_t end; (end = heard_.find('\n', from)) != std::string::npos; from = end + 1) {
      std::string_view line = std::string_view(heard_).substr(from, end - from);
      if (line.ends_with('\r')) line.remove_suffix(1);
      say(server.answer(line));
    }
    heard_.erase(0, from);
    return heard_.size() <= longest;
  }
  void say(const std::string& line) { unsent_ += line + "\n"; }
  /// Sends what goes without waiting; false when nobody takes it.
  bool send() {
    while (!unsent_.empty()) {
      const ssize_t sent = ::send(socket.get(), unsent_.data(), unsent_.size(), MSG_NOSIGNAL);
      if (sent < 0) return (errno == EAGAIN || errno == EINTR) && unsent_.size() <= most_unsent;
      unsent_.erase(0, static_cast<std::size_t>(sent));
    }
    return true;
  }
  void end() {
    socket.reset();
    heard_.clear();
    unsent_.clear();
  }

 private:
  std::string heard_, unsent_;
};

}  // namespace

std::string socket_folder() {
  const char* own = std::getenv("XDG_RUNTIME_DIR");
  return own && *own ? own : std::filesystem::temp_directory_path().string();
}

Expected<bool> serve_lines(const LineServer& server, const std::atomic<bool>& ending) {
  const std::string& path = server.socket;
  if (path.empty() || path.size() > 100)
    return fail("socket", said("its path has {} bytes, 1 to 100 will do", path.size()), "name a shorter one");
  if (auto free = make_way(path); !free) return free;
  const Handle listening(::socket(AF_UNIX, SOCK_STREAM | SOCK_NONBLOCK | SOCK_CLOEXEC, 0));
  const sockaddr_un address = address_of(path);
  const mode_t mask = ::umask(0177);  // for its owner alone
  const bool bound =
      listening && ::bind(listening.get(), reinterpret_cast<const sockaddr*>(&address), sizeof address) == 0;
  ::umask(mask);
  if (!bound || ::listen(listening.get(), 4) != 0)
    return fail(path, said("cannot be served: {}", std::strerror(errno)), "name a path in a folder of your own",
                Fault::output);
  server.ready();
  Talk talk;
  const auto over = [&] {
    talk.end();
    server.left();
  };
  auto last = std::chrono::steady_clock::now();
  while (!ending) {
    pollfd ready[2] = {{listening.get(), POLLIN, 0}, {talk.socket.get(), POLLIN, 0}};
    ::poll(ready, talk.socket ? 2 : 1, static_cast<int>(1e3 * server.every));
    // Who goes is seen off before who comes is let in.
    if (talk.socket && (ready[1].revents & (POLLIN | POLLHUP | POLLERR)) && !talk.hear(server)) over();
    if (ready[0].revents & POLLIN) {
      Handle came(::accept4(listening.get(), nullptr, nullptr, SOCK_NONBLOCK | SOCK_CLOEXEC));
      if (came && talk.socket) {
        constexpr std::string_view busy = "error busy: somebody else is served; wait until they have gone\n";
        [[maybe_unused]] const ssize_t told = ::send(came.get(), busy.data(), busy.size(), MSG_NOSIGNAL);
      } else if (came) {
        talk.socket.reset(came.release());
      }
    }
    const auto now = std::chrono::steady_clock::now();
    for (const std::string& line : server.tick(std::chrono::duration<double>(now - last).count()))
      if (talk.socket) talk.say(line);
    last = now;
    if (talk.socket && !talk.send()) over();
  }
  ::unlink(path.c_str());
  return true;
}

}  // namespace cinnabar
