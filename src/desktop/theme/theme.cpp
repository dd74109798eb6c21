#include "cinnabar/desktop/theme/theme.h"

#include <QFontDatabase>
#include <QFontMetricsF>
#include <functional>

namespace cinnabar {
namespace {

Theme paper() {
  return {false,
          QColor("#EFEAE0"),
          QColor("#F8F5EE"),
          QColor("#D8D0C0"),
          QColor("#E2DBCB"),
          QColor("#211D1A"),
          QColor("#6E655B"),
          QColor("#B5341F"),
          QColor("#1F6460"),
          QColor("#B07C1E"),
          QColor("#211D1A"),
          QColor("#F8F5EE"),
          QColor("#F5DBA8"),
          QColor("#7D7973"),
          QColor("#8A5F14")};
}
Theme blackout() {
  return {true,
          QColor("#090807"),
          QColor("#13100E"),
          QColor("#29211C"),
          QColor("#211A16"),
          QColor("#BF9B7C"),
          QColor("#80695A"),
          QColor("#BF4630"),
          QColor("#447A74"),
          QColor("#97702F"),
          QColor("#BF9B7C"),
          QColor("#13100E"),
          QColor("#8E6C3C"),
          QColor("#232120"),
          QColor("#97702F")};
}

Theme& current() {
  static Theme theme = paper();
  return theme;
}

}  // namespace

const Theme& theme() { return current(); }
void setTheme(bool dark) { current() = dark ? blackout() : paper(); }

QString styleSheet() {
  const Theme& t = theme();
  QString sheet = QStringLiteral(R"(
QWidget { color: %ink; font-family: "Cinnabar Text"; font-size: 12px; }
QMainWindow, QDialog { background: %ground; }
QLineEdit, QPlainTextEdit { background: %panel; color: %ink; border: 1px solid %line; border-radius: 2px; padding: 2px 4px;
  selection-background-color: %accent; selection-color: %panel; font-family: "Cinnabar Figures"; }
QLineEdit:focus, QPlainTextEdit:focus { border: 1px solid %accent; }
QListWidget { background: %panel; border: 1px solid %line; border-radius: 2px; }
QListWidget::item { padding: 4px 6px; }
QListWidget::item:selected { background: %selected; color: %onSelected; }
QMenu { background: %panel; border: 1px solid %line; padding: 4px 0; }
QMenu::item { padding: 5px 22px 5px 14px; }
QMenu::item:selected { background: %selected; color: %onSelected; }
QMenu::item:disabled { color: %quiet; }
QMenu::separator { height: 1px; background: %line; margin: 4px 10px; }
QPushButton { background: %panel; border: 1px solid %line; border-radius: 2px; padding: 4px 12px; }
QPushButton:hover { border-color: %quiet; }
QPushButton:focus { border-color: %accent; }
QPushButton:pressed, QPushButton:checked, QPushButton:default { background: %selected; color: %onSelected; border-color: %selected; }
QPushButton:disabled { color: %quiet; }
QComboBox { background: %panel; color: %ink; border: 1px solid %line; border-radius: 2px; padding: 2px 4px; }
QComboBox:focus { border-color: %accent; }
QComboBox:disabled { color: %quiet; }
QComboBox::drop-down { border: none; width: 16px; }
QComboBox::down-arrow { image: url(:/marks/%opens); width: 9px; height: 6px; margin-right: 6px; }
QLabel[quiet="true"] { color: %quiet; font-size: 11px; }
QComboBox QAbstractItemView { background: %panel; color: %ink; border: 1px solid %line; selection-background-color: %selected;
  selection-color: %onSelected; }
QCheckBox::indicator { width: 12px; height: 12px; border: 1px solid %quiet; border-radius: 2px; background: %panel; }
QCheckBox::indicator:checked { background: %ink; }
QCheckBox:focus { color: %accent; }
QTableWidget { background: %panel; color: %ink; border: 1px solid %line; gridline-color: %line; }
QTableWidget::item:selected { background: %selected; color: %onSelected; }
QScrollArea, QScrollArea > QWidget, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QAbstractScrollArea::corner { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 8px; margin: 0; }
QScrollBar::handle:vertical { background: %line; border-radius: 3px; min-height: 24px; margin: 1px; }
QScrollBar::handle:vertical:hover { background: %quiet; }
QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QScrollBar:horizontal { background: transparent; height: 8px; }
QScrollBar::handle:horizontal { background: %line; border-radius: 3px; min-width: 24px; margin: 1px; }
QToolTip { background: %panel; color: %ink; border: 1px solid %line; padding: 3px; }
QFileDialog QListView, QFileDialog QTreeView, QFileDialog QComboBox { background: %panel; color: %ink; border: 1px solid %line; }
QHeaderView::section { background: %ground; color: %quiet; border: none; padding: 3px; }
)");
  const auto put = [&](const char* key, const QColor& color) { sheet.replace(QLatin1String(key), color.name()); };
  sheet.replace(QLatin1String("%opens"), QLatin1String(t.dark ? "opens-dark.png" : "opens.png"));
  put("%ground", t.ground), put("%panel", t.panel), put("%line", t.line), put("%quiet", t.quiet),
      put("%accent", t.accent);
  put("%selected", t.selected), put("%onSelected", t.onSelected), put("%ink", t.ink);
  return sheet;
}

void loadFonts() {
  for (const char* name :
       {"CinnabarText-Regular", "CinnabarText-Bold", "CinnabarFigures-Regular", "CinnabarFigures-Bold"})
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/%1.otf").arg(QLatin1String(name)));
}

QFont textFont(double px, bool bold) {
  QFont font(QStringLiteral("Cinnabar Text"));
  font.setPixelSize(static_cast<int>(px + 0.5));
  font.setBold(bold);
  return font;
}
QFont numberFont(double px, bool bold) {
  QFont font(QStringLiteral("Cinnabar Figures"));
  font.setPixelSize(static_cast<int>(px + 0.5));
  font.setBold(bold);
  return font;
}

void drawText(QPainter& painter, const QRectF& box, int flags, const QString& text, const QFont& font,
              const QColor& color) {
  painter.setFont(font);
  painter.setPen(color);
  const QString shown = QFontMetricsF(font).horizontalAdvance(text) > box.width() + 0.5
                            ? QFontMetricsF(font).elidedText(text, Qt::ElideRight, box.width())
                            : text;
  painter.drawText(box, flags | Qt::TextSingleLine, shown);
}

void drawPanel(QPainter& painter, const QRectF& box) {
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(theme().line, 1));
  painter.setBrush(theme().panel);
  painter.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 2, 2);
  painter.restore();
}

QPolygonF shapeSeen(const QPolygonF& shape, const QRectF& seen) {
  const QRectF room = seen.adjusted(-8, -8, 8, 8);  // cut edges stay out of sight
  if (room.contains(shape.boundingRect())) return shape;
  QPolygonF rest = shape;
  // Side by side (Sutherland & Hodgman 1974): how far a point lies inside of each.
  for (const auto& within :
       {std::function<double(const QPointF&)>([&](const QPointF& p) { return p.x() - room.left(); }),
        std::function<double(const QPointF&)>([&](const QPointF& p) { return room.right() - p.x(); }),
        std::function<double(const QPointF&)>([&](const QPointF& p) { return p.y() - room.top(); }),
        std::function<double(const QPointF&)>([&](const QPointF& p) { return room.bottom() - p.y(); })}) {
    QPolygonF kept;
    for (qsizetype i = 0; i < rest.size(); ++i) {
      const QPointF &a = rest[i], &b = rest[(i + 1) % rest.size()];
      const double da = within(a), db = within(b);
      if (da >= 0) kept << a;
      if ((da >= 0) != (db >= 0)) kept << a + (b - a) * (da / (da - db));
    }
    rest = std::move(kept);
  }
  return rest;
}

void drawShape(QPainter& painter, const QPolygonF& shape, const QRectF& seen) {
  if (const QPolygonF rest = shapeSeen(shape, seen); !rest.isEmpty()) painter.drawPolygon(rest);
}

std::optional<QLineF> partSeen(const QLineF& line, const QRectF& seen) {
  double from = 0, to = 1;  // Liang & Barsky 1984
  const auto keep = [&](double step, double room) {
    if (step == 0) return room >= 0;
    (step < 0 ? from : to) = step < 0 ? std::max(from, room / step) : std::min(to, room / step);
    return from <= to;
  };
  if (!keep(-line.dx(), line.x1() - seen.left()) || !keep(line.dx(), seen.right() - line.x1()) ||
      !keep(-line.dy(), line.y1() - seen.top()) || !keep(line.dy(), seen.bottom() - line.y1()))
    return std::nullopt;
  return QLineF(line.pointAt(from), line.pointAt(to));
}

void drawFocus(QPainter& painter, const QRectF& box) {
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(theme().accent, 1, Qt::DotLine));
  painter.setBrush(Qt::NoBrush);
  painter.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 2, 2);
  painter.restore();
}

}  // namespace cinnabar
