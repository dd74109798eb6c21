// Shot cards and the shot list on paper: one page a shot with its picture, the floor to scale with measures from
// the product's axis, settings, tracks and what is not level; legible in grey.
#pragma once
#include <QString>
#include <atomic>
#include <functional>

#include "cinnabar/base/result.h"
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

struct CardOptions {
  bool pictures = true;  ///< predicted pictures and levels, which take a second or two a shot
  int picture_width = 480;
  const std::atomic<bool>* cancel = nullptr;
  std::function<void(int done, int all)> progress;  ///< told on the thread that writes
};

/// Writes the cards of all shots as a PDF of A4 pages. May run on any thread; a cancelled run leaves no file.
[[nodiscard]] Expected<void> writeShotCards(const Project& project, const QString& path,
                                            const CardOptions& options = {});
/// Writes the shot list as a PDF, paginated.
[[nodiscard]] Expected<void> writeShotList(const Project& project, const QString& path);

}  // namespace cinnabar
