#include "cinnabar/desktop/workers/meter_link.h"

#include <cmath>

namespace cinnabar {

MeterLink::MeterLink(QObject* parent)
    : LineLink({.hello = "ok meter 1",
                .stranger = tr("What answers there is no meter that is known; see its socket"),
                .gone = tr("The meter has gone"),
                .nobody = tr("No meter answers at that socket; start one there, for example cinnabar-meter")},
               parent) {}

void MeterLink::read(const Vec3& at, const Vec3& normal, std::function<void(double lux)> then) {
  QStringList numbers;
  for (const double v : {at.x, at.y, at.z, normal.x, normal.y, normal.z}) numbers << QString::number(v, 'f', 6);
  ask("hold " + numbers.join(' '));
  ask("read", [this, then = std::move(then)](const QString& answer) {
    const QStringList words = answer.split(' ', Qt::SkipEmptyParts);
    bool read = false;
    const double lux = words.size() == 3 && words[0] == "ok" ? words[1].toDouble(&read) : 0.0;
    if (answer.startsWith("error")) return emit told(answer.mid(6), true);
    if (!read || !std::isfinite(lux) || lux < 0.0) return emit told(tr("The meter said no number"), true);
    if (lux == 0.0) return emit told(tr("The meter reads nothing: it is dark there"), true);
    then(lux);
  });
}

}  // namespace cinnabar
