// What papers draw of a set: its floor to scale, a table, and where everything stands.
#pragma once
#include <QImage>
#include <QStringList>
#include <vector>

#include "cinnabar/desktop/paper/page.h"

namespace cinnabar::paper {

/// The floor in plan at a whole scale (1:5 to 1:50), with the camera, lights, cards and backdrop; the scale it
/// has.
int drawFloor(Page& page, const Project& project, const Shot& shot, double x, double y, double w, double h);

/// A shot's picture fitted into a frame of that width and 16:9, with its sketch over it or instead of it.
void drawPicture(Page& page, const QImage& picture, const Sketch& sketch, double x, double y, double w);

/// Rows of a table, the first its heading; the height they took.
double table(Page& page, double x, double y, const std::vector<double>& widths,
             const std::vector<QStringList>& rows, double pt = 8);

/// How tall such a table is.
double tableTall(Page& page, const std::vector<double>& widths, const std::vector<QStringList>& rows,
                 double pt = 8);

/// Where camera, lights, cards and backdrop stand, measured from the product's axis, and what they are set to.
[[nodiscard]] std::vector<QStringList> setRows(const Project& project, const Shot& shot);

}  // namespace cinnabar::paper
