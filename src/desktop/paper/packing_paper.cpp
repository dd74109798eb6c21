#include "cinnabar/desktop/paper/packing_paper.h"

#include "cinnabar/desktop/paper/page.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {
using namespace paper;

QString shotsText(const std::vector<std::size_t>& shots, std::size_t all) {
  if (shots.size() == all && all > 1) return paperText("all shots");
  QStringList numbers;
  for (const std::size_t s : shots) numbers << QString::number(s + 1);
  return shots.empty()       ? paperText("no shot")
         : shots.size() == 1 ? paperText("shot %1").arg(numbers[0])
                             : paperText("shots %1").arg(numbers.join(", "));
}

}  // namespace

void paintPacking(QPagedPaintDevice& device, const Project& project, const Packing& packing) {
  Page page(device);
  if (!page.active()) return;
  int number = 1;
  double y = top;
  page.text(left, y, wide, paperText("%1, packing list").arg(q(project.name)), 15, true);
  y += 10;
  for (const PackedThing& thing : packing.things) {
    if (y > 262) {
      foot(page, project, number++);
      device.newPage();
      y = top;
    }
    const bool isShort = thing.missing() > 0;
    page.painter().setPen(QPen(Qt::black, page.mm(0.3)));
    page.painter().setBrush(Qt::NoBrush);
    page.painter().drawRect(page.box(left, y + 0.6, 3.4, 3.4));
    const QString unit = thing.unit.empty() ? QString() : " " + q(thing.unit);
    page.text(left + 7, y, 22, q(number_text(thing.wanted, 5)) + unit, 10, isShort, true);
    double tall = page.text(left + 30, y, 74, q(thing.name), 10, isShort);
    QStringList words{shotsText(thing.shots, project.shots.size())};
    if (!thing.note.empty()) words << q(thing.note);
    if (isShort)
      words << paperText("%1 owned, %2 to get")
                       .arg(q(number_text(thing.owned, 5)) + unit, q(number_text(thing.missing(), 5)) + unit) +
                   (thing.price ? (thing.hired ? paperText(" for hire at %1") : paperText(" at %1"))
                                      .arg(q(number_text(*thing.price, 6)))
                                : QString());
    tall = std::max(tall, page.text(left + 106, y, wide - 106, words.join("; "), 8.5));
    y += tall + 2.2;
  }
  if (packing.things.empty()) page.text(left, y, wide, paperText("No shot needs anything yet."), 11);
  if (packing.cost > 0 || packing.without_price > 0)
    page.text(left, y + 3, wide,
              paperText("To get: %1").arg(q(number_text(packing.cost, 7))) +
                  (packing.without_price > 0 ? counted(static_cast<qsizetype>(packing.without_price),
                                                       paperText(", and %1 kind without a price"),
                                                       paperText(", and %1 kinds without a price"))
                                             : QString()),
              10, true);
  foot(page, project, number);
}

}  // namespace cinnabar
