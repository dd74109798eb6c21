// Lines of text over a local socket, for programs that stand in for a device: one client at a time.
#pragma once
#include <atomic>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

struct LineServer {
  std::string socket;                                    ///< its path; at most 100 bytes
  std::function<std::string(std::string_view)> answer;   ///< to one line, without its end
  std::function<std::vector<std::string>(double)> tick;  ///< what is said unasked after so many seconds
  std::function<void()> left;                            ///< whoever was there has gone
  std::function<void()> ready = [] {};                   ///< it is listening
  double every = 0.005;                                  ///< seconds between two ticks
};

/// Serves until `ending` is set. A socket that nobody serves any more is taken over, one in use is refused; other
/// files are never touched. Lines over 4096 bytes end the conversation. Fails where the socket cannot be made.
[[nodiscard]] Expected<bool> serve_lines(const LineServer& server, const std::atomic<bool>& ending);

/// The folder for sockets of one's own: XDG_RUNTIME_DIR, else the system's folder for temporary files.
[[nodiscard]] std::string socket_folder();

}  // namespace cinnabar
