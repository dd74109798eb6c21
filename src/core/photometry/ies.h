// Reads measured lights from IES LM-63 files, 1986 to 2002.
#pragma once
#include <string>
#include <string_view>

#include "cinnabar/photometry/distribution.h"

namespace cinnabar {

inline constexpr std::size_t largest_ies = std::size_t{32} << 20;  ///< bytes of a file that is read

/// Reads the text of an IES LM-63 file (ANSI/IESNA LM-63-1986, -1991, -1995, -2002): an optional version line,
/// `[KEYWORD] text` or plain lines, TILT=NONE, INCLUDE or a file's name (whose factors are then left out, with a
/// note), and the numbers, in feet or metres. Type C only; A and B, and what is cut off, not a number, out of
/// order or beyond a million values, are refused with the place and the mend. `file` names the source in messages.
[[nodiscard]] Expected<LightDistribution> read_ies(std::string_view text, const std::string& file);

}  // namespace cinnabar
