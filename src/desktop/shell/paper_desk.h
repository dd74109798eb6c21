// What goes out of a project as paper and tables, and comes in from tables, on a thread of its own.
#pragma once
#include <QObject>
#include <QPointer>
#include <atomic>
#include <functional>
#include <optional>

#include "cinnabar/desktop/paper/papers.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/project/document/edit.h"

namespace cinnabar {

class Session;
class WordButton;

class PaperDesk : public QObject {
  Q_OBJECT
 public:
  /// `cancel` shows while something is being made, and stops it.
  PaperDesk(QWidget* window, WordButton* cancel);
  ~PaperDesk() override;

  /// Whose papers are made and whose tables are read; nothing where no project is open.
  void lookAt(Session* session) { session_ = session; }

  /// The shot cards, or the shot list, looked at first.
  void showPaper(bool cards);
  void askPaper(Paper paper);
  void askPackingTable();
  /// What is heard on the set while the shot in hand is recorded.
  void askCues();
  /// The spot as a film; stopped, it goes on from there the next time.
  void askAnimatic();
  void writeTable(bool takes);
  void readTakes();
  void readShots();
  /// Shots from a table (.csv), a list (.txt) or JSON, joined to those that are there.
  void readShotsFrom(const QString& path);

 signals:
  void say(const QString& text);
  void written(const QString& path, bool good);

 private:
  [[nodiscard]] QWidget* window() const;
  void askFile(const QString& title, const QString& filter, const char* suffix,
               std::function<void(const QString& path)> then);
  void openPreview(const Project& project, std::optional<std::vector<CardContent>> contents);
  void onPaper(const QString& path, std::function<Expected<void>(const CardOptions&)> write,
               const QString& counts = tr("Card %1 of %2"));
  void onPaperThread(const QString& begins, const QString& counts,
                     std::function<std::function<QString()>(const CardOptions&)> make);
  void keepRead(const Edit& edit, const std::vector<std::string>& faults, const std::string& note);

  WordButton* cancel_;
  QPointer<Session> session_;
  std::atomic<bool> cancelled_{false};
  InOrder worker_;  // last: what it works at uses the others
};

}  // namespace cinnabar
