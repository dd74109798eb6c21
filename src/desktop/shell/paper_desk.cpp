#include "cinnabar/desktop/shell/paper_desk.h"

#include <QFileDialog>
#include <algorithm>

#include "cinnabar/base/files.h"
#include "cinnabar/desktop/board/conflicts_sheet.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/paper/page.h"
#include "cinnabar/desktop/paper/preview_dialog.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/formats/animatic.h"
#include "cinnabar/formats/cue_track.h"
#include "cinnabar/formats/shot_merge.h"
#include "cinnabar/formats/tables.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {

PaperDesk::PaperDesk(QWidget* window, WordButton* cancel) : QObject(window), cancel_(cancel) {
  connect(cancel_, &WordButton::clicked, this, [this] { cancelled_ = true; });
}
PaperDesk::~PaperDesk() { cancelled_ = true; }

QWidget* PaperDesk::window() const { return qobject_cast<QWidget*>(parent()); }

/// Looked at first: the contents are made on a thread of its own, then the pages are shown.
void PaperDesk::showPaper(bool cards) {
  if (!session_) return;
  if (!cards) return openPreview(session_->project(), std::nullopt);
  onPaperThread(tr("Making the cards"), tr("Card %1 of %2"),
                [this, project = session_->project()](const CardOptions& options) {
                  auto contents =
                      std::make_shared<Expected<std::vector<CardContent>>>(cardContents(project, options));
                  return [this, contents, project]() -> QString {
                    if (!*contents) return QString::fromStdString(contents->error().text());
                    openPreview(project, std::move(**contents));
                    return {};
                  };
                });
}

void PaperDesk::openPreview(const Project& project, std::optional<std::vector<CardContent>> contents) {
  const bool cards = contents.has_value();
  auto* preview = new PreviewDialog(project, std::move(contents), window());
  connect(preview, &PreviewDialog::writePdf, this,
          [this, cards] { askPaper(cards ? Paper::cards : Paper::list); });
  preview->open();
}

/// Runs `make` on a thread of its own with progress and Cancel; what it answers is done on the interface thread
/// and says what came of it.
void PaperDesk::onPaperThread(const QString& begins, const QString& counts,
                              std::function<std::function<QString()>(const CardOptions&)> make) {
  cancelled_ = false;
  cancel_->show();
  emit say(begins);
  const QPointer<PaperDesk> self(this);
  worker_.add([this, self, counts, make = std::move(make)] {
    CardOptions options;
    options.cancel = &cancelled_;
    options.progress = [self, counts](int done, int all) {
      later(self, [self, counts, done, all] { emit self->say(counts.arg(done).arg(all)); });
    };
    const auto then = make(options);
    later(self, [self, then] {
      self->cancel_->hide();
      emit self->say(then());
    });
  });
}

/// Asks for a file, and does something with it while a project is open.
void PaperDesk::askFile(const QString& title, const QString& filter, const char* suffix,
                        std::function<void(const QString& path)> then) {
  if (!session_) return;
  auto* dialog = fileDialog(window(), title, filter, suffix);
  connect(dialog, &QFileDialog::fileSelected, this, [this, then = std::move(then)](const QString& path) {
    if (session_) then(path);
  });
  dialog->open();
}

void PaperDesk::askPaper(Paper paper) {
  const auto kind =
      std::find_if(paperKinds().begin(), paperKinds().end(), [&](const PaperKind& k) { return k.paper == paper; });
  askFile(paper::paperText(kind->title), tr("PDF (*.pdf)"), "pdf", [this, paper](const QString& path) {
    onPaper(path, [path, paper, project = session_->project()](const CardOptions& options) {
      return writePaper(paper, project, path, options);
    });
  });
}

void PaperDesk::askPackingTable() {
  askFile(tr("Packing list"), tr("Tables (*.csv)"), "csv", [this](const QString& path) {
    onPaper(path, [path, project = session_->project()](const CardOptions&) {
      return write_file(path.toStdString(), csv_written(packing_table(packing(project))));
    });
  });
}

void PaperDesk::askCues() {
  askFile(tr("Cue track of this shot"), tr("Sound (*.wav)"), "wav", [this](const QString& path) {
    if (!session_->shot()) return;
    onPaper(path,
            [path, project = session_->project(),
             index = session_->shotIndex()](const CardOptions&) -> Expected<void> {
              const auto cues = cue_list(project, *project.shots[index]);
              return cues ? write_cue_track(path.toStdString(), *cues) : tl::unexpected(cues.error());
            });
  });
}

void PaperDesk::askAnimatic() {
  askFile(tr("The spot as a film"), tr("Films (*.mp4 *.webm)"), "mp4", [this](const QString& path) {
    const auto write = [path, project = session_->project(),
                        document = session_->document()](const CardOptions& how) -> Expected<void> {
      AnimaticOptions options;
      options.of = json_text(document.to_json());
      options.cancel = how.cancel;
      options.progress = [&how](long done, long all) {
        how.progress(static_cast<int>(done), static_cast<int>(all));
      };
      const auto made = write_animatic(project, path.toStdString(), options);
      return made ? Expected<void>() : tl::unexpected(made.error());
    };
    onPaper(path, write, tr("Picture %1 of %2"));
  });
}

/// Writes a file on the papers' thread and says what came of it.
void PaperDesk::onPaper(const QString& path, std::function<Expected<void>(const CardOptions&)> write,
                        const QString& counts) {
  onPaperThread(tr("Writing %1").arg(path), counts,
                [this, path, write = std::move(write)](const CardOptions& options) {
                  const auto done = write(options);
                  const QString said = done ? tr("Written: %1").arg(path) : q(done.error().text());
                  return [this, said, path, good = done.has_value()]() -> QString {
                    emit written(path, good);
                    return said;
                  };
                });
}

void PaperDesk::writeTable(bool takes) {
  askFile(
      takes ? tr("Takes") : tr("Shot list"), takes ? tr("Tables (*.csv)") : tr("Tables and JSON (*.csv *.json)"),
      "csv", [this, takes](const QString& path) {
        onPaper(path,
                [path, takes, project = session_->project(), document = session_->document()](const CardOptions&) {
                  return write_file(path.toStdString(), takes ? csv_written(take_table(project))
                                                        : path.endsWith(".json")
                                                            ? json_text(shots_json(document), 1) + "\n"
                                                            : csv_written(shot_table(project)));
                });
      });
}

/// Keeps what was read from a table, and says it with what could not be read.
void PaperDesk::keepRead(const Edit& edit, const std::vector<std::string>& faults, const std::string& note) {
  session_->keep(edit);
  QStringList said{q(edit.title)};
  if (!note.empty()) said << q(note);
  for (const std::string& fault : faults) said << QString::fromStdString(fault);
  emit say(said.join("; "));
}

void PaperDesk::readTakes() {
  auto* dialog = fileDialog(window(), tr("Read takes"), tr("Tables (*.csv)"));
  connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& path) {
    if (!session_) return;
    const QPointer<PaperDesk> self(this);
    worker_.add([self, path, document = session_->document()] {
      const auto text = read_file(path.toStdString());
      auto read = std::make_shared<Expected<TakesRead>>(
          text ? takes_from_table(document, *text, path.toStdString()) : tl::unexpected(text.error()));
      later(self, [self, read] {
        if (!self->session_) return;
        if (!*read) return emit self->say(QString::fromStdString(read->error().text()));
        self->keepRead((*read)->edit, (*read)->faults, (*read)->note);
      });
    });
  });
  dialog->open();
}

void PaperDesk::readShots() {
  auto* dialog = fileDialog(window(), tr("Read shots"), tr("Tables, lists and JSON (*.csv *.txt *.json)"));
  connect(dialog, &QFileDialog::fileSelected, this, &PaperDesk::readShotsFrom);
  dialog->open();
}

void PaperDesk::readShotsFrom(const QString& path) {
  if (!session_) return;
  const QPointer<PaperDesk> self(this);
  worker_.add([self, path, document = session_->document()] {
    const auto text = read_file(path.toStdString());
    auto read = std::make_shared<Expected<ShotsRead>>(text ? shots_from_text(document, *text, path.toStdString())
                                                           : tl::unexpected(text.error()));
    later(self, [self, read] {
      if (!self->session_) return;
      if (!*read) return emit self->say(QString::fromStdString(read->error().text()));
      self->keepRead((*read)->edit, (*read)->faults, (*read)->note);
      if (!(*read)->conflicts.empty())
        (new ConflictsSheet(self->session_, (*read)->conflicts, self->window()))->open();
    });
  });
}

}  // namespace cinnabar
