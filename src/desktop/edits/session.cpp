#include "cinnabar/desktop/edits/session.h"

#include <QPointer>
#include <algorithm>
#include <future>
#include <utility>

#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {

OpenedProject::OpenedProject(std::unique_ptr<Store> opened, QString whyReadOnly, QStringList missing)
    : store(std::move(opened)),
      readOnly(std::move(whyReadOnly)),
      lost(std::move(missing)),
      project(reader.read(store->document())) {}

Session::Session(OpenedProject opened, QObject* parent)
    : QObject(parent),
      store_(std::move(opened.store)),
      path_(QString::fromStdString(store_->path())),
      kept_(store_->document()),
      live_(kept_),
      reader_(std::move(opened.reader)),
      project_(std::move(opened.project)),
      readOnly_(std::move(opened.readOnly)),
      undoTitle_(QString::fromStdString(store_->undo_title())),
      redoTitle_(QString::fromStdString(store_->redo_title())),
      files_(std::make_unique<InOrder>()) {
  selectShot(0);
}

Session::~Session() { files_.reset(); }

const Shot* Session::shot() const { return shot_ < project_.shots.size() ? project_.shots[shot_].get() : nullptr; }
const Setup* Session::setup() const { return onSet().setup(); }
std::size_t Session::setupIndex() const { return onSet().setup_index(); }

void Session::addShot() {
  Document next = live_;
  const bool first = !shot();
  const std::size_t at = first ? 0 : shot_ + 1;
  const Json* like = first ? nullptr : next.list("shots")[shot_].get();
  insert_shot(next, new_shot(next, like, first ? "First shot" : "New shot"), at);
  if (keep(edit_between(live_, next, tr("Shot added").toStdString()))) selectShot(at);
}

void Session::selectShot(std::size_t index) {
  if (index == shot_ && selection_.kind != Selection::Kind::none) return;
  shot_ = std::min(index, project_.shots.empty() ? std::size_t{0} : project_.shots.size() - 1);
  setTime_ = 0;
  selection_ = {};
  if (shot()) {
    // The moment a viewer would remember: the label facing, else the middle.
    setTime_ = shot()->facing ? std::min(shot()->clock.set_at(shot()->facing->at), shot()->set_time()) : 0.0;
    selection_ = setup() && !setup()->lights.empty() ? Selection{Selection::Kind::light, 0}
                                                     : Selection{Selection::Kind::camera, 0};
  }
  emit shotChanged();
  emit selectionChanged();
  emit timeChanged();
  emit changed();
}

void Session::select(const Selection& selection) {
  if (selection == selection_) return;
  selection_ = selection;
  emit selectionChanged();
}

void Session::setSetTime(double seconds) {
  const double end = shot() ? shot()->set_time() : 0.0;
  const double next = std::clamp(seconds, 0.0, std::max(0.0, end));
  if (next == setTime_) return;
  setTime_ = next;
  emit timeChanged();
}

void Session::show(Document document) {
  live_ = std::move(document);
  const std::string id = shot() ? shot()->id : "";
  project_ = reader_.read(live_);
  for (std::size_t i = 0; i < project_.shots.size(); ++i)
    if (project_.shots[i]->id == id) shot_ = i;
  if (shot_ >= project_.shots.size()) shot_ = project_.shots.empty() ? 0 : project_.shots.size() - 1;
  using Held = Selection::Kind;
  const std::size_t there = selection_.kind == Held::light     ? (setup() ? setup()->lights.size() : 0)
                            : selection_.kind == Held::card    ? (setup() ? setup()->cards.size() : 0)
                            : selection_.kind == Held::body    ? (setup() ? setup()->gear.size() : 0)
                            : selection_.kind == Held::product ? (shot() ? shot()->products.size() : 0)
                            : selection_.kind == Held::effect  ? (shot() ? shot()->effects.size() : 0)
                                                               : selection_.index + 1;
  if (selection_.index >= there) selection_ = {Held::camera, 0};
  if (shot()) setTime_ = std::min(setTime_, std::max(0.0, shot()->set_time()));
  emit changed();
}

bool Session::preview(const Values& values) {
  const auto edit = cinnabar::changed(kept_, values, {});
  return edit && preview(*edit);
}
bool Session::preview(const Edit& edit) {
  previewing_ = true;
  show(applied(kept_, edit));
  return true;
}
void Session::dropPreview() {
  if (!previewing_) return;
  previewing_ = false;
  show(kept_);
}

bool Session::keep(const QString& title, const Values& values) {
  const auto edit = cinnabar::changed(kept_, values, title.toStdString());
  if (edit) return keep(*edit);
  dropPreview();
  emit message(tr("Not changed: %1").arg(q(edit.error().message + "; " + edit.error().mend)));
  return false;
}

bool Session::keep(const Edit& edit) {
  if (readOnly()) {
    dropPreview();
    emit message(tr("Not changed: the project is open for reading only; %1").arg(readOnly_));
    return false;
  }
  if (stepping_ > 0) {  // an undo is on its way to the disk and back: its document comes first
    dropPreview();
    emit message(tr("Not changed: the last step is still being taken back; do it again"));
    return false;
  }
  previewing_ = false;
  if (edit.changes.empty()) {
    show(kept_);
    return true;
  }
  const Document before = std::exchange(kept_, applied(kept_, edit));
  show(kept_);
  emit edited(before, kept_);
  undoTitle_ = QString::fromStdString(edit.title);
  redoTitle_.clear();
  emit historyChanged();
  emit message(undoTitle_);
  const QPointer<Session> self(this);
  files_->add([this, edit] {
    held_.push_back(edit);
    write();
  });
  return true;
}

/// Brings what is held to the disk, oldest first, as far as it will take it.
void Session::write() {
  QString why;
  while (!held_.empty()) {
    const auto done = store_->apply(held_.front());
    if (!done) {
      why = QString::fromStdString(done.error().text());
      break;
    }
    held_.pop_front();
  }
  const std::string moved = store_->moved_to();
  const bool tellMove = moved != toldMove_ && !moved.empty() && why.isEmpty();
  if (tellMove) toldMove_ = moved;
  QMetaObject::invokeMethod(
      this,
      [this, why, tellMove, moved = QString::fromStdString(moved), count = static_cast<int>(held_.size())] {
        const int before = std::exchange(heldCount_, count);
        if (count > 0)
          emit message(tr("Not on the disk yet, but held here: %1. Save a copy, or try again").arg(why));
        else if (tellMove)
          emit message(tr("The project file was moved; it is still kept, at %1").arg(moved));
        else if (before > 0)
          emit message(tr("Everything is on the disk again"));
        if (count != before) emit heldChanged();
      },
      Qt::QueuedConnection);
}

void Session::tryAgain() {
  files_->add([this] { write(); });
}

void Session::saveCopy(const QString& path) {
  const QPointer<Session> self(this);
  files_->add([self, path, document = kept_] {
    const auto made = Store::create(path.toStdString(), document);
    const bool saved = made.has_value();
    const QString said = saved ? tr("Saved a copy: %1").arg(path) : QString::fromStdString(made.error().text());
    later(self, [self, said, path, saved] {
      emit self->message(said);
      emit self->copySaved(path, saved);
    });
  });
}

void Session::refreshTitles() {
  const QPointer<Session> self(this);
  files_->add([this, self] {
    const QString undo = QString::fromStdString(store_->undo_title()),
                  redo = QString::fromStdString(store_->redo_title());
    later(self, [self, undo, redo] {
      self->undoTitle_ = undo;
      self->redoTitle_ = redo;
      emit self->historyChanged();
    });
  });
}

void Session::step(bool forward) {
  if (readOnly()) return emit message(tr("Nothing taken back: the project is open for reading only"));
  if (heldCount_ > 0) {
    tryAgain();
    return emit message(counted(heldCount_, tr("Nothing taken back: %1 change must reach the disk first"),
                                tr("Nothing taken back: %1 changes must reach the disk first")));
  }
  dropPreview();
  ++stepping_;
  const QPointer<Session> self(this);
  files_->add([this, self, forward] {
    const auto edit = forward ? store_->redo() : store_->undo();
    const QString why = edit ? QString() : QString::fromStdString(edit.error().text());
    const bool some = edit && *edit;
    const QString title = some ? QString::fromStdString((*edit)->title) : QString();
    const QString undo = QString::fromStdString(store_->undo_title()),
                  redo = QString::fromStdString(store_->redo_title());
    later(self, [self, forward, why, some, title, undo, redo, document = store_->document()] {
      --self->stepping_;
      if (some) {
        self->kept_ = document;
        self->show(document);
      }
      self->undoTitle_ = undo;
      self->redoTitle_ = redo;
      emit self->historyChanged();
      emit self->message(!why.isEmpty() ? why
                         : !some        ? (forward ? tr("Nothing to do again") : tr("Nothing to take back"))
                         : forward      ? tr("Done again: %1").arg(title)
                                        : tr("Taken back: %1").arg(title));
    });
  });
}
void Session::undo() { step(false); }
void Session::redo() { step(true); }

void Session::keepVersion(const QString& name) {
  const QPointer<Session> self(this);
  files_->add([this, self, name] {
    const auto kept = store_->keep_version(name.toStdString());
    const QString said = kept ? tr("Kept as version %1").arg(name) : QString::fromStdString(kept.error().text());
    later(self, [self, said] { emit self->message(said); });
  });
}

void Session::askVersions() {
  const QPointer<Session> self(this);
  files_->add([this, self] {
    QStringList list;
    if (const auto versions = store_->versions())
      for (const KeptVersion& v : *versions)
        list << tr("%1, %2").arg(QString::fromStdString(v.name),
                                 QString::fromStdString(v.at).left(16).replace('T', ' '));
    later(self, [self, list] { emit self->versionsListed(list); });
  });
}

void Session::askVersion(std::size_t number) {
  const QPointer<Session> self(this);
  files_->add([this, self, number] {
    const auto versions = store_->versions();
    const auto read = store_->version(number);
    const QString why = read ? QString() : QString::fromStdString(read.error().text());
    const QString name =
        versions && number < versions->size() ? QString::fromStdString((*versions)[number].name) : QString();
    auto document = read ? std::make_shared<const Document>(*read) : nullptr;
    later(self, [self, why, name, document] {
      document ? emit self->versionRead(name, document) : emit self->message(why);
    });
  });
}

void Session::askTakeChanges(const std::string& shotId) {
  const QPointer<Session> self(this);
  files_->add([this, self, shotId] {
    ProjectReader reader;
    const Project project = reader.read(store_->document());
    const Shot* of = by_id(project.shots, shotId);
    const Json* json = store_->document().find("shots", shotId);
    if (!of || !json) return;
    const ShotLog log = shot_log(project, *of);
    const auto told = [&](const Expected<std::optional<std::vector<EntityChange>>>& changes) {
      TakeChange change;
      change.known = changes && *changes;
      if (change.known)
        for (const std::string& w : changes_in_words(**changes, *json)) change.what << QString::fromStdString(w);
      return change;
    };
    QList<TakeChange> perTake;
    for (std::size_t k = 0; k < log.takes.size(); ++k)
      perTake << (k == 0 ? TakeChange{.first = true, .known = true}
                         : told(store_->changes_between_takes(log.takes[k - 1]->id, log.takes[k]->id)));
    const TakeChange since =
        log.takes.empty() ? TakeChange() : told(store_->changes_since_take(log.takes.back()->id));
    later(self, [self, shotId, perTake, since] {
      emit self->takeChanges(QString::fromStdString(shotId), perTake, since);
    });
  });
}

void Session::flush() {
  std::promise<void> done;
  files_->add([&done] { done.set_value(); });
  done.get_future().wait();
}

}  // namespace cinnabar
