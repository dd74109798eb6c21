// Pictures of any kind that are taken into a project.
#pragma once
#include <QByteArray>
#include <QString>

#include "cinnabar/base/result.h"

namespace cinnabar {

inline constexpr int kept_side = 1024;  ///< pixels, the larger side of a picture as it is kept

/// PNG bytes of at most `kept_side` pixels a side from a file of any picture; its size is looked at before memory
/// is taken. To be called off the interface's thread.
[[nodiscard]] Expected<QByteArray> png_read(const QString& file);

}  // namespace cinnabar
