// What a gel lets through by wavelength, as makers of gels and measuring instruments write it out.
#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/color/gel_spectrum.h"

namespace cinnabar {

/// Reads a table of two columns, wavelength in nanometres and share let through: of 1, or of 100 where any is over
/// 1 or has a per cent sign. A first row of words is passed over. At least two wavelengths from 300 to 900 nm,
/// each once, and no more than 2000. Errors name file and line.
[[nodiscard]] Expected<std::vector<PassedAt>> read_gel_curve(std::string_view bytes, const std::string& file);

}  // namespace cinnabar
