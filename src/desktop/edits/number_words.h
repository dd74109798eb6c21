// Numbers as they are shown and typed with a unit after them.
#pragma once
#include <QString>
#include <functional>
#include <optional>

#include "cinnabar/base/text.h"

namespace cinnabar {

/// Reads a number with or without its unit, times a factor into what is kept.
[[nodiscard]] inline std::function<std::optional<double>(const QString&)> numberTyped(const QString& unit = {},
                                                                                      double scale = 1.0) {
  return [unit, scale](const QString& typed) -> std::optional<double> {
    QString text = typed.trimmed();
    if (!unit.isEmpty() && text.endsWith(unit)) text.chop(unit.size());
    const auto v = parse_number(text.trimmed().toStdString());
    return v ? std::optional(*v * scale) : std::nullopt;
  };
}
/// Shows a number with fixed decimals and its unit.
[[nodiscard]] inline std::function<QString(double)> numberShown(const QString& unit, int decimals = 0) {
  return [unit, decimals](double v) {
    return QString::fromStdString(fixed_text(v, decimals)) + (unit.isEmpty() ? "" : " " + unit);
  };
}

}  // namespace cinnabar
