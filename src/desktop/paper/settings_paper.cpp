#include "cinnabar/desktop/paper/settings_paper.h"

#include "cinnabar/base/encoding.h"
#include "cinnabar/desktop/paper/page.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/formats/settings_cards.h"

namespace cinnabar {
using namespace paper;

/// Cards under one another; one that does not fit begins a page, one longer than a page goes on over the next.
void paintSettings(QPagedPaintDevice& device, const Project& project) {
  Page page(device);
  if (!page.active()) return;
  constexpr double bottom = 272, value_left = left + 40, row_gap = 1.6;
  int number = 1;
  double y = top;
  const auto turn = [&] {
    foot(page, project, number++);
    device.newPage();
    y = top;
  };
  // Measured before it is drawn: rows of a value that goes over several lines are as high as it.
  const auto height = [&](const QString& words, double points, double across) {
    QFont font("Cinnabar Text");
    font.setPointSizeF(points);
    font.setBold(true);
    const QFontMetricsF metrics(font, page.painter().device());
    return metrics.boundingRect(page.box(0, 0, across, 400), Qt::TextWordWrap, words).height() / page.mm(1.0);
  };
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const SettingsCard card = settings_card(project, i);
    double tall = 11;
    for (const auto& row : card.rows) tall += height(q(row.value), 12, left + wide - value_left) + row_gap;
    if (y > top && y + tall > bottom) turn();
    page.rule(left, y, wide, 0.5);
    y += 2;
    y += page.text(left, y, wide, q(clipped(card.title, 160)), 15, true) + 2;
    if (card.rows.empty()) y += page.text(left, y, wide, paperText("no camera yet"), 10) + row_gap;
    for (const auto& [what, value] : card.rows) {
      if (y + height(q(value), 12, left + wide - value_left) > bottom) turn();
      page.text(left, y + 0.8, value_left - left - 2, q(what), 9);
      y += page.text(value_left, y, left + wide - value_left, q(value), 12, true) + row_gap;
    }
    y += 5;
  }
  if (project.shots.empty()) page.text(left, top, wide, paperText("No shots yet."), 12);
  foot(page, project, number);
}

}  // namespace cinnabar
