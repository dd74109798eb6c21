// The line to a hand meter, in the language of docs/hand-meter.md.
#pragma once
#include "cinnabar/base/vec.h"
#include "cinnabar/desktop/workers/line_link.h"

namespace cinnabar {

class MeterLink : public LineLink {
  Q_OBJECT
 public:
  explicit MeterLink(QObject* parent = nullptr);
  /// Held at a place and facing somewhere, then read; a refusal is told instead.
  void read(const Vec3& at, const Vec3& normal, std::function<void(double lux)> then);
};

}  // namespace cinnabar
