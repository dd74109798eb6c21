// What each lens sees from where the camera stands, worked out off the interface's thread for the floor.
#pragma once
#include <QObject>
#include <vector>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/forecast/measures/lens_reach.h"

namespace cinnabar {

class LensWedges : public QObject {
  Q_OBJECT
 public:
  explicit LensWedges(Session* session, QObject* parent);
  /// Only while it is wanted is anything worked out.
  void setWanted(bool wanted);
  [[nodiscard]] const std::vector<LensReach>& reaches() const { return reaches_; }
  /// "24 mm: backdrop's edge, left" where it is in the picture, "60 mm: clear by 24 %" where none is.
  [[nodiscard]] static QString words(const LensReach& reach);

 signals:
  void workedOut();

 private:
  void ask();
  Session* session_;
  std::vector<LensReach> reaches_;
  bool wanted_ = false;
  int asked_ = 0;
  Newest worker_;  // last: it uses the others
};

}  // namespace cinnabar
