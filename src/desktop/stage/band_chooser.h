// "Why this band?": the school that sets it, chosen on the level itself, or the project's own bounds with a
// reason.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/forecast/level.h"

namespace cinnabar {

class BandChooser : public QWidget {
  Q_OBJECT
 public:
  BandChooser(Session* session, const Level& level, QWidget* parent = nullptr);

 private:
  void addSchools(HouseRule rule);
  void addOwnBounds();
  void keepBound(const char* which, std::optional<double> value);
  void keepReason(const QString& reason);

  Session* session_;
  Level level_;
};

}  // namespace cinnabar
