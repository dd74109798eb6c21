// An open project in the window: the document as it stands, edits, undo, and what is selected. Files are written
// on a thread of their own; the document in memory is ahead of the disk by what is still being kept.
#pragma once
#include <QObject>
#include <QString>
#include <QStringList>
#include <deque>
#include <memory>

#include <utility>
#include <vector>
#include "cinnabar/base/text.h"

#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/planning/set_things.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/store/store.h"

namespace cinnabar {

/// What the hand has hold of on the floor.
using Selection = SetThing;

/// What was changed from one take to the next.
struct TakeChange {
  bool first = false;  ///< there is none before it
  bool known = false;  ///< both were logged here
  QStringList what;    ///< in words, a thing each
  /// How many things were changed; nothing where that is not known.
  [[nodiscard]] std::optional<std::size_t> count() const {
    return known ? std::optional(static_cast<std::size_t>(what.size())) : std::nullopt;
  }
};

/// A project as it was opened: read where it was opened, on whichever thread that is, for its pictures take long.
struct OpenedProject {
  explicit OpenedProject(std::unique_ptr<Store> opened, QString whyReadOnly = {}, QStringList missing = {});

  std::unique_ptr<Store> store;
  QString readOnly;  ///< why nothing may be changed; empty: everything may
  QStringList lost;  ///< what could not be read of a damaged file
  ProjectReader reader;
  Project project;
};

class Session : public QObject {
  Q_OBJECT
 public:
  explicit Session(OpenedProject opened, QObject* parent = nullptr);
  ~Session() override;

  [[nodiscard]] const Document& document() const { return live_; }
  [[nodiscard]] const Project& project() const { return project_; }
  /// The document without what is only shown.
  [[nodiscard]] const Document& kept() const { return kept_; }
  [[nodiscard]] QString path() const { return path_; }

  [[nodiscard]] std::size_t shotIndex() const { return shot_; }
  [[nodiscard]] const Shot* shot() const;
  [[nodiscard]] const Setup* setup() const;
  [[nodiscard]] std::size_t setupIndex() const;
  /// The shot in hand on its set-up at the time cursor, as it is now: not to be kept.
  [[nodiscard]] OnSet onSet() const { return {live_, project_, shot_, setTime_}; }
  void selectShot(std::size_t index);
  /// Adds a shot after the present one and like it, or the first one, and takes it in hand.
  void addShot();
  [[nodiscard]] Selection selection() const { return selection_; }
  void select(const Selection& selection);
  [[nodiscard]] double setTime() const { return setTime_; }
  void setSetTime(double seconds);
  [[nodiscard]] Units units() const { return project_.units; }

  using Values = cinnabar::Values;
  /// Shows values without keeping them (while something is dragged or tried). Refused values change nothing.
  bool preview(const Values& values);
  bool preview(const Edit& edit);
  void dropPreview();
  [[nodiscard]] bool previewing() const { return previewing_; }
  /// Keeps values as one edit with that title; false when they are refused (a message says why).
  bool keep(const QString& title, const Values& values);
  bool keep(const Edit& edit);
  bool keep(const SetEdit& edit) { return keep(QString::fromStdString(edit.title), edit.values); }

  void undo();
  void redo();
  [[nodiscard]] QString undoTitle() const { return undoTitle_; }
  [[nodiscard]] QString redoTitle() const { return redoTitle_; }

  /// What changed since a take, in words; answered later by takeChanges (the log is read on the files' thread).
  void askTakeChanges(const std::string& shotId);

  /// Here it can only be looked at: another window writes this file, or it is damaged.
  [[nodiscard]] bool readOnly() const { return !readOnly_.isEmpty(); }

  /// Edits that the disk would not take and that are held in memory; they are tried again with every edit and when
  /// asked. Undo waits until they are kept.
  [[nodiscard]] int held() const { return heldCount_; }
  void tryAgain();
  /// Writes the document as it stands to a new file, on the files' thread; a message says how it went.
  void saveCopy(const QString& path);

  /// Keeps the present state under a name.
  void keepVersion(const QString& name);
  /// Answered by versionsListed and versionRead.
  void askVersions();
  void askVersion(std::size_t number);

  /// Waits until everything is on the disk (before closing, and in tests).
  void flush();

 signals:
  void changed();                                              ///< document, shot or previews
  void edited(const Document& before, const Document& after);  ///< an edit was kept
  void selectionChanged();
  void timeChanged();
  void shotChanged();
  void historyChanged();
  void message(const QString& text);
  void heldChanged();
  void copySaved(const QString& path, bool saved);
  void versionsListed(const QStringList& versions);
  void versionRead(const QString& name, std::shared_ptr<const Document> document);
  void takeChanges(const QString& shotId, const QList<TakeChange>& perTake, const TakeChange& sinceLast);

 private:
  void show(Document document);
  void write();  // on files_
  void refreshTitles();
  void step(bool forward);

  std::unique_ptr<Store> store_;  // used on files_ only, after the constructor
  QString path_;
  Document kept_, live_;
  ProjectReader reader_;
  Project project_;
  std::size_t shot_ = 0;
  Selection selection_;
  double setTime_ = 0;
  bool previewing_ = false;
  QString readOnly_;
  int stepping_ = 0, heldCount_ = 0;
  std::deque<Edit> held_;  // on files_ only: what is not on the disk yet, the oldest first
  std::string toldMove_;   // on files_ only
  QString undoTitle_, redoTitle_;
  std::unique_ptr<InOrder> files_;
};

}  // namespace cinnabar
