// The window's projects: opened, begun and copied, on a thread of their own.
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPointer>
#include <QPushButton>
#include <QStandardPaths>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/shell/main_window.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/formats/demo.h"

namespace cinnabar {
void MainWindow::withFile(std::function<Expected<OpenedProject>()> make) {
  say(tr("Opening"));
  ++opening_;
  const QPointer<MainWindow> self(this);
  opener_->add([self, make = std::move(make)] {
    auto result = std::make_shared<Expected<OpenedProject>>(make());
    later(self, [self, result] {
      --self->opening_;
      if (!*result) {
        const QString why = QString::fromStdString(result->error().text());
        self->say(why);
        if (!self->session_ && self->opening_ == 0) self->showBegin(true);
        emit self->failed(why, exit_code(result->error()));
        return;
      }
      self->say({});
      const QString why = (*result)->readOnly;
      const QStringList lost = (*result)->lost;
      self->adopt(std::move(**result));
      if (!why.isEmpty()) self->say(tr("Open for reading only: %1").arg(why));
      if (!lost.isEmpty()) self->tellLost(lost);
    });
  });
}

void MainWindow::openFile(const QString& path) {
  withFile([path = path.toStdString()]() -> Expected<OpenedProject> {
    auto store = Store::open(path, Access::write);
    if (store) return OpenedProject(std::move(*store));
    const Cause cause = store.error().cause;
    if (cause == Cause::locked || cause == Cause::unwritable) {
      auto reading = Store::open(path, Access::read);  // the other window keeps the pen
      if (!reading) return tl::unexpected(reading.error());
      return OpenedProject(std::move(*reading), cause == Cause::locked
                                                    ? tr("another window is writing this project")
                                                    : tr("the file or its folder may not be written"));
    }
    if (cause != Cause::damaged) return tl::unexpected(store.error());
    std::vector<std::string> lost;
    auto rest = Store::salvage(path, lost);
    if (!rest) return tl::unexpected(rest.error());
    QStringList words;
    for (const std::string& l : lost) words << QString::fromStdString(l);
    return OpenedProject(std::move(*rest), tr("the file is damaged"), words);
  });
}

void MainWindow::newProject() { showBegin(true); }

/// A new project of what Begin came to, at a name that is asked for.
void MainWindow::makeProject(const Document& document, const QString& name) {
  auto* dialog = fileDialog(this, tr("New project"), tr("Cinnabar projects (*.cinnabar)"), "cinnabar");
  dialog->selectFile(name + ".cinnabar");
  connect(dialog, &QFileDialog::fileSelected, this, [this, document](const QString& path) {
    Document named = document;
    Json project = *named.single("project");
    project["name"] = QFileInfo(path).completeBaseName().toStdString();
    named.singles["project"] = std::make_shared<const Json>(std::move(project));
    options_.page = named.list("shots").empty() ? "brief" : "stage";
    page_ = options_.page;
    withFile([path = path.toStdString(), named]() -> Expected<OpenedProject> {
      auto store = Store::create(path, named);
      if (!store) return tl::unexpected(store.error());
      return OpenedProject(std::move(*store));
    });
  });
  dialog->open();
}

/// The example, made where the program keeps what is its own, and from then on as it was left.
void MainWindow::openExample() {
  const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
  const QString path = folder + "/Slow Burn.cinnabar";
  // A level that is out is the first thing seen, with a lever worth trying.
  options_.shot = 6, page_ = "stage";
  if (QFileInfo::exists(path)) return openFile(path);
  withFile([folder, path = path.toStdString()]() -> Expected<OpenedProject> {
    if (!QDir().mkpath(folder))
      return fail(folder.toStdString(), "cannot be made", "make room on the disk, or free the folder",
                  Fault::output);
    if (auto made = make_demo(path); !made) return tl::unexpected(made.error());
    auto store = Store::open(path, Access::write);
    if (!store) return tl::unexpected(store.error());
    return OpenedProject(std::move(*store));
  });
}

void MainWindow::openProject() {
  auto* dialog = fileDialog(this, tr("Open a project"), tr("Cinnabar projects (*.cinnabar)"));
  connect(dialog, &QFileDialog::fileSelected, this, &MainWindow::openFile);
  dialog->open();
}

/// What could not be read of a damaged file, and the way out.
void MainWindow::tellLost(const QStringList& lost) {
  auto* dialog = new QDialog(this);
  beginSheet(dialog, "lost", tr("The file is damaged"), {560, 300});
  auto* text = new QPlainTextEdit(
      lost.isEmpty() ? tr("Everything that this window shows could be read.") : lost.join('\n'), dialog);
  text->setReadOnly(true);
  text->setAccessibleName(tr("What could not be read"));
  auto* copy = new QPushButton(tr("Save a copy of what is left"), dialog);
  copy->setObjectName("saveLeft");
  auto* look = new QPushButton(tr("Only look"), dialog);
  look->setObjectName("onlyLook");
  auto* all = new QVBoxLayout(dialog);
  auto* what = new PlainLabel(tr("The file is left untouched and can be looked at here. Not readable:"), dialog);
  what->setWordWrap(true);
  all->addWidget(what);
  all->addWidget(text, 1);
  auto* row = new QHBoxLayout;
  row->addStretch(1);
  row->addWidget(copy);
  row->addWidget(look);
  all->addLayout(row);
  connect(copy, &QPushButton::clicked, dialog, [this, dialog] {
    dialog->close();
    askCopy();
  });
  connect(look, &QPushButton::clicked, dialog, &QDialog::close);
  dialog->open();
}

void MainWindow::askCopy() {
  if (!session_) return;
  auto* dialog = fileDialog(this, tr("Save a copy"), tr("Cinnabar projects (*.cinnabar)"), "cinnabar");
  connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& path) {
    if (session_) session_->saveCopy(path);
  });
  dialog->open();
}

/// Closing while the disk would not take everything: nothing is lost without a word.
void MainWindow::tellHeld() {
  auto* dialog = new QDialog(this);
  beginSheet(dialog, "heldBack", tr("Not everything is on the disk"));
  auto* what = new PlainLabel(
      counted(session_->held(), tr("%1 change could not be written. What was kept before is safe in the file."),
              tr("%1 changes could not be written. What was kept before is safe in the file.")),
      dialog);
  what->setWordWrap(true);
  auto* all = new QVBoxLayout(dialog);
  all->addWidget(what);
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, auto action) {
    auto* b = new QPushButton(text, dialog);
    b->setObjectName(name);
    connect(b, &QPushButton::clicked, dialog, [dialog, action] {
      dialog->close();
      action();
    });
    row->addWidget(b);
  };
  button(tr("Save a copy"), "heldCopy", [this] { askCopy(); });
  button(tr("Try again"), "heldAgain", [this] { session_->tryAgain(); });
  button(tr("Leave without them"), "heldLeave", [this] {
    leaveHeld_ = true;
    close();
  });
  button(tr("Stay"), "heldStay", [] {});
  all->addLayout(row);
  dialog->open();
}

}  // namespace cinnabar
