// Numbers with the units that the core tells them in, as they are shown and typed.
#pragma once
#include <string>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"

class QComboBox;

namespace cinnabar {

/// Lengths in the project's measure, volumes in millilitres, degrees, seconds and percent by their marks; of
/// another unit what stands before its comma.
[[nodiscard]] QString withUnit(double value, const std::string& unit, Units units);
/// A field for such a number, typed with or without its mark.
[[nodiscard]] NumberField::Spec unitField(const QString& name, const std::string& id, double value,
                                          const std::string& unit, Units units);
/// What a box offers, its words and what they stand for: told anew only where it is something else.
void offer(QComboBox& box, const std::vector<std::pair<QString, QString>>& choices, const QString& chosen);

}  // namespace cinnabar
