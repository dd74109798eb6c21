#include "cinnabar/desktop/workers/effects_seen.h"

#include <QPointer>

#include "cinnabar/desktop/workers/later.h"

namespace cinnabar {

EffectsSeen::EffectsSeen(Session* session, QObject* parent) : QObject(parent), session_(session) {
  connect(session_, &Session::changed, this, &EffectsSeen::ask);
  connect(session_, &Session::shotChanged, this, &EffectsSeen::ask);
  ask();
}

const ToldEffect* EffectsSeen::of(const std::string& id) const {
  for (const ToldEffect& told : list_)
    if (told.effect->id == id) return &told;
  return nullptr;
}

void EffectsSeen::ask() {
  const int number = ++asked_;
  const auto shot = session_->shot() ? session_->project().shots[session_->shotIndex()] : nullptr;
  if (!shot || shot->effects.empty() || (shot_ && shot_->id != shot->id)) {
    list_.clear(), shot_.reset();
    emit workedOut();
  }
  if (!shot || shot->effects.empty()) {
    seen_ = number;
    return worker_.stop();
  }
  const QPointer<EffectsSeen> self(this);
  worker_.ask([self, number, shot, project = session_->project()](const std::atomic<bool>& cancelled) {
    auto list = std::make_shared<ToldEffects>(told_effects(project, *shot));
    // What is to be drawn, up to the end of the shot, is worked out here as well.
    const double end = std::max(0.0, shot->set_time());
    for (const ToldEffect& told : *list)
      if (told.outcome && !cancelled)
        for (const EffectBody& body : told.outcome->bodies) (void)body.at(end, end);
    if (cancelled) return;
    later(self, [self, number, shot, project, list] {
      if (number != self->asked_) return;
      self->seen_ = number, self->shot_ = shot, self->project_ = project, self->list_ = std::move(*list);
      emit self->workedOut();
    });
  });
}

}  // namespace cinnabar
