// Shot cards and the shot list on paper: one page a shot with its picture, the floor to scale with measures from
// the product's axis, settings, tracks and what is not level; legible in grey.
#pragma once
#include <QImage>
#include <QPagedPaintDevice>
#include <QString>
#include <atomic>
#include <functional>

#include "cinnabar/base/result.h"
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

struct CardOptions {
  bool pictures = true;  ///< predicted pictures and levels, which take a second or two a shot
  bool levels = true;    ///< with the pictures
  int picture_width = 480;
  const std::atomic<bool>* cancel = nullptr;
  std::function<void(int done, int all)> progress;  ///< told on the thread that writes
};

/// What a card needs that takes time: the predicted picture and what is not level.
struct CardContent {
  QImage picture;
  std::vector<Level> levels;  ///< all that apply; empty where none were asked for
};
/// The contents of all cards, a second or two a shot. May run on any thread; an error when cancelled.
[[nodiscard]] Expected<std::vector<CardContent>> cardContents(const Project& project, const CardOptions& options);

/// Draws the cards, or the shot list, on a device of A4 pages without margins.
void paintShotCards(QPagedPaintDevice& device, const Project& project, const std::vector<CardContent>& contents);
void paintShotList(QPagedPaintDevice& device, const Project& project);
/// The film on paper for the client: six shots a page with pictures, words, sound and lengths.
void paintBoard(QPagedPaintDevice& device, const Project& project, const std::vector<CardContent>& contents);

}  // namespace cinnabar
