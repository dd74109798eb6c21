// Results that may fail: the value, or an error that names the place and the mend.
#pragma once
#include <string>
#include <tl/expected.hpp>

namespace cinnabar {

/// What kind of failure an error is, so that a caller can answer with the right exit code.
enum class Fault { argument, input, output };

/// An expected failure. `place` names what was wrong (a key, a path, a file), `message` how, `mend` what to do.
struct Error {
  std::string place, message, mend;
  Fault fault = Fault::argument;

  [[nodiscard]] std::string text() const {
    return (place.empty() ? "" : place + ": ") + message + (mend.empty() ? "" : "; " + mend);
  }
};

template <class T>
using Expected = tl::expected<T, Error>;

[[nodiscard]] inline tl::unexpected<Error> fail(std::string place, std::string message, std::string mend = {},
                                                Fault fault = Fault::argument) {
  return tl::unexpected<Error>(Error{std::move(place), std::move(message), std::move(mend), fault});
}

}  // namespace cinnabar
