// What comes of the effects of the shot in hand, worked out off the interface's thread for all who show it.
#pragma once
#include <QObject>
#include <memory>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {

class EffectsSeen : public QObject {
  Q_OBJECT
 public:
  EffectsSeen(Session* session, QObject* parent);
  /// Of the shot as it was lately; nothing while none is worked out.
  [[nodiscard]] const ToldEffects& list() const { return list_; }
  /// Of one effect by its id.
  [[nodiscard]] const ToldEffect* of(const std::string& id) const;
  [[nodiscard]] bool settled() const { return asked_ == seen_; }

 signals:
  void workedOut();

 private:
  void ask();
  Session* session_;
  std::shared_ptr<const Shot> shot_;  ///< that the list is of: it points into it
  Project project_;                   ///< and into this one's products
  ToldEffects list_;
  int asked_ = 0, seen_ = 0;
  Newest worker_;  // last: it uses the others
};

}  // namespace cinnabar
