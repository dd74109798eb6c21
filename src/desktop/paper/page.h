// A page of paper: A4 in millimetres, and what all papers share.
#pragma once
#include <QCoreApplication>
#include <QPageSize>
#include <QPagedPaintDevice>
#include <QPainter>
#include <QPdfWriter>

#include "cinnabar/base/result.h"
#include "cinnabar/base/text.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar::paper {

/// A text of the papers in the language spoken.
inline QString paperText(const char* text) { return QCoreApplication::translate("Paper", text); }

/// Millimetres on an A4 page, from its top left.
class Page {
 public:
  explicit Page(QPagedPaintDevice& device)
      : device_(device), painter_(&device), per_mm_(device.logicalDpiX() / 25.4) {
    painter_.setRenderHint(QPainter::Antialiasing);
  }
  [[nodiscard]] bool active() const { return painter_.isActive(); }
  QPainter& painter() { return painter_; }
  [[nodiscard]] double mm(double v) const { return v * per_mm_; }
  [[nodiscard]] int number() const { return number_; }
  void next() {
    device_.newPage();
    ++number_;
  }
  [[nodiscard]] QRectF box(double x, double y, double w, double h) const { return {mm(x), mm(y), mm(w), mm(h)}; }

  /// Text of `pt` points within a box; the height it took, in millimetres.
  double text(double x, double y, double w, const QString& words, double pt, bool bold = false,
              bool figures = false, int align = Qt::AlignLeft) {
    QFont font(figures ? "Cinnabar Figures" : "Cinnabar Text");
    font.setPointSizeF(pt);
    font.setBold(bold);
    painter_.setFont(font);
    painter_.setPen(Qt::black);
    QRectF took;
    painter_.drawText(box(x, y, w, 400), align | Qt::AlignTop | Qt::TextWordWrap, words, &took);
    return took.height() / per_mm_;
  }
  /// How tall that would be.
  double tall(double w, const QString& words, double pt, bool bold = false) {
    QFont font("Cinnabar Text");
    font.setPointSizeF(pt);
    font.setBold(bold);
    painter_.setFont(font);
    return painter_.boundingRect(box(0, 0, w, 400), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, words)
               .height() /
           per_mm_;
  }
  void rule(double x, double y, double w, double thick = 0.2) {
    painter_.setPen(QPen(Qt::black, mm(thick)));
    painter_.drawLine(QPointF(mm(x), mm(y)), QPointF(mm(x + w), mm(y)));
  }

 private:
  QPagedPaintDevice& device_;
  QPainter painter_;
  double per_mm_;
  int number_ = 1;
};

inline constexpr double left = 14, wide = 182, top = 14;

inline void foot(Page& page, const Project& project, int number) {
  page.rule(left, 281, wide);
  page.text(left, 282.5, 120, QString::fromStdString(project.name), 8);
  page.text(left + 120, 282.5, wide - 120, paperText("page %1").arg(number), 8, false, false, Qt::AlignRight);
}

/// Where something so tall goes that comes next: there, or at the top of the next page.
inline double placed(Page& page, const Project& project, double y, double tall) {
  constexpr double ends = 279;
  if (y + tall <= ends || y <= top) return y;
  foot(page, project, page.number());
  page.next();
  return top;
}

/// A4 without margins of the printer's own: the page is laid out in millimetres.
inline void prepare(QPdfWriter& pdf, const QString& title) {
  pdf.setPageSize(QPageSize(QPageSize::A4));
  pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
  pdf.setResolution(300);
  pdf.setTitle(title);
}

}  // namespace cinnabar::paper
