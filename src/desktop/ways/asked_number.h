// A number that is asked for with a wish or a move, as a field of the window.
#pragma once
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/session.h"

namespace cinnabar {

/// The field of a number: lengths in the project's units, others with their unit behind them. Where there is no
/// value `otherwise` stands.
[[nodiscard]] NumberField::Spec askedNumber(const Session& session, const std::string& key,
                                            const std::string& name, const std::string& unit,
                                            std::optional<double> value, const QString& otherwise = {});

}  // namespace cinnabar
