// Results that may fail: the value, or an error that names the place and the mend.
#pragma once
#include <string>
#include <tl/expected.hpp>

namespace cinnabar {

/// What kind of failure an error is, so that a caller can answer with the right exit code.
enum class Fault { argument, input, output };

/// What is behind it, where a caller goes on otherwise than by telling.
enum class Cause {
  other,
  json,        ///< a project's JSON stands where its file was wanted
  foreign,     ///< another program's file, a newer one's, or none that is known
  locked,      ///< somebody else is writing it
  unwritable,  ///< it may be read but not written
  damaged
};

/// An expected failure. `place` names what was wrong (a key, a path, a file), `message` how, `mend` what to do.
struct Error {
  std::string place, message, mend;
  Fault fault = Fault::argument;
  Cause cause = Cause::other;

  [[nodiscard]] std::string text() const {
    return (place.empty() ? "" : place + ": ") + message + (mend.empty() ? "" : "; " + mend);
  }
};

/// What a program answers with: 1 for output that cannot be written, 2 for arguments, 3 for input.
[[nodiscard]] inline int exit_code(const Error& error) {
  return error.fault == Fault::argument ? 2 : error.fault == Fault::output ? 1 : 3;
}

template <class T>
using Expected = tl::expected<T, Error>;

[[nodiscard]] inline tl::unexpected<Error> fail(std::string place, std::string message, std::string mend = {},
                                                Fault fault = Fault::argument) {
  return tl::unexpected<Error>(Error{std::move(place), std::move(message), std::move(mend), fault});
}

}  // namespace cinnabar
