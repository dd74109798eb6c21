// The two themes: Paper for the desk, Blackout for the dark set. All colours and type of the window come from
// here.
#pragma once
#include <QColor>
#include <QFont>
#include <QPainter>
#include <QString>
#include <optional>

namespace cinnabar {

struct Theme {
  bool dark = false;
  QColor ground, panel, line, track, ink, quiet, accent, good, leaning, selected, onSelected, lightFill, mat;
  QColor leaningInk;  ///< for words: what leans is drawn lighter than letters may be
};

/// The theme in use. Changed only by setTheme.
[[nodiscard]] const Theme& theme();
void setTheme(bool dark);
/// The style sheet for the plain Qt widgets (fields, menus, scroll bars, buttons) in the present theme.
[[nodiscard]] QString styleSheet();

/// Loads the shipped type. Once, before the first window.
void loadFonts();
[[nodiscard]] QFont textFont(double px, bool bold = false);
[[nodiscard]] QFont numberFont(double px, bool bold = false);

/// Text on one line within `box`, shortened with an ellipsis where it is too long.
void drawText(QPainter& painter, const QRectF& box, int flags, const QString& text, const QFont& font,
              const QColor& color);
/// A panel: fill, hairline, two pixels of corner.
void drawPanel(QPainter& painter, const QRectF& box);
/// What lies in `seen` of a polygon, or a little past it, turning the same way.
[[nodiscard]] QPolygonF shapeSeen(const QPolygonF& shape, const QRectF& seen);
/// A polygon, cut to `seen` first: one that reaches a kilometre past it takes Qt a fifth of a second.
void drawShape(QPainter& painter, const QPolygonF& shape, const QRectF& seen);
/// The part of a line that lies in `seen`, if any: a round-capped one that reaches far past it takes Qt 30 ms.
[[nodiscard]] std::optional<QLineF> partSeen(const QLineF& line, const QRectF& seen);
/// The line around what has the keyboard.
void drawFocus(QPainter& painter, const QRectF& box);

}  // namespace cinnabar
