#include "cinnabar/desktop/shell/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPointer>
#include <QScrollArea>
#include <QSettings>
#include <QShortcut>
#include <QVBoxLayout>
#include <algorithm>

#include "cinnabar/desktop/begin/begin_page.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/pages/stage_page.h"
#include "cinnabar/desktop/paper/settings_sheet.h"
#include "cinnabar/desktop/shell/elsewhere_line.h"
#include "cinnabar/desktop/shell/keys_sheet.h"
#include "cinnabar/desktop/shell/paper_desk.h"
#include "cinnabar/desktop/shell/show_me.h"
#include "cinnabar/desktop/shell/versions_dialog.h"
#include "cinnabar/desktop/stage/lens_view.h"
#include "cinnabar/desktop/stage/levels_panel.h"
#include "cinnabar/desktop/stage/spot_strip.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/watch/watch_sheet.h"

namespace cinnabar {
namespace {

class Masthead : public QWidget {
 public:
  using QWidget::QWidget;

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.fillRect(rect(), theme().ground);
    drawText(p, {20, 8, 92, 28}, Qt::AlignLeft | Qt::AlignVCenter, "Cinnabar", textFont(17, true), theme().accent);
    p.setPen(QPen(theme().line, 1));
    p.drawLine(QPointF(0, height() - 0.5), QPointF(width(), height() - 0.5));
  }
};

/// As it is made: by its name and whom it is for.
bool is_example(const Session& session) {
  const Json* info = session.document().single("project");
  return info && info->value("name", "") == "Slow Burn" && info->value("client", "") == "Marrowby";
}

class Ground : public QWidget {
 public:
  using QWidget::QWidget;

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.fillRect(rect(), theme().ground);
  }
};

/// What the window holds, each of them as large as it is. Without a layout: one that wraps text would ask for more
/// height than there is, though the pages make do with what they get.
class Inside : public QWidget {
 public:
  using QWidget::QWidget;

 protected:
  void resizeEvent(QResizeEvent*) override {
    for (QObject* child : children())
      if (auto* widget = qobject_cast<QWidget*>(child)) widget->setGeometry(rect());
  }
};

}  // namespace

MainWindow::MainWindow(const WindowOptions& options)
    : options_(options),
      foresight_(std::make_unique<Foresight>(options.closely)),
      maker_(std::make_unique<PictureMaker>(options.passes)),
      page_(options.page),
      opener_(std::make_unique<InOrder>()) {
  setObjectName("window");
  setWindowTitle(tr("Cinnabar"));
  setMinimumSize(880, 440);
  auto* ground = new Ground(this);
  auto* all = new QVBoxLayout(ground);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(0);

  makeMast(ground);
  all->addWidget(mast_);

  // In a window that is smaller than the pages are made for (twice the size of text on a usual screen) one goes
  // about in them.
  auto* room = new QScrollArea(ground);
  room->setObjectName("room");
  room->setFrameShape(QFrame::NoFrame);
  room->setFocusPolicy(Qt::NoFocus);
  room->setWidgetResizable(true);
  inside_ = new Inside;
  inside_->setMinimumSize(944, 570);
  body_ = new QWidget(inside_);
  auto* column = new QVBoxLayout(body_);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  room->setWidget(inside_);
  all->addWidget(room, 1);

  all->addLayout(makeFoot(ground));
  setCentralWidget(ground);

  makeKeys();
  connect(foresight_.get(), &Foresight::levels, this,
          [this](const std::vector<Level>&, bool close) { levelsClose_ = close; });

  resize(options.remember ? QSettings().value("size", options.size).toSize().boundedTo(screen()->availableSize())
                          : options.size);
  if (options.remember && QSettings().value("dark", false).toBool()) options_.theme = "blackout";
  blackout_->setChecked(options_.theme == "blackout");
  setDark(options_.theme == "blackout");
}

/// What stands over every page: the project, the pages, Watch it and Blackout.
void MainWindow::makeMast(QWidget* ground) {
  mast_ = new Masthead(ground);
  mast_->setFixedHeight(44);
  auto* mast = new QHBoxLayout(mast_);
  mast->setContentsMargins(112, 0, 20, 0);
  mast->setSpacing(4);
  projectButton_ = new WordButton(tr("No project"), WordButton::Look::bench, mast_);
  projectButton_->setObjectName("projectMenu");
  projectButton_->setCheckable(false);
  projectButton_->setMaximumWidth(260);
  aim_ = new PlainLabel(mast_);
  aim_->setObjectName("aim");
  auto* blackoutName = new PlainLabel(tr("Blackout"), mast_);
  blackout_ = new Switch(mast_);
  blackout_->setObjectName("blackout");
  blackout_->setAccessibleName(tr("Blackout"));
  mast->addWidget(projectButton_);
  mast->addWidget(aim_, 1);
  for (const PageRow& row : pageRows()) {
    auto* button = new WordButton(QCoreApplication::translate("cinnabar::WindowPage", row.title),
                                  WordButton::Look::page, mast_);
    button->setObjectName(QString("page-") + row.id);
    mast->addWidget(button);
    connect(button, &WordButton::clicked, this, [this, id = row.id] { showPage(id); });
    pageButtons_[row.id] = button;
  }
  mast->addStretch(1);
  watch_ = new WordButton(tr("Watch it"), WordButton::Look::chip, mast_);
  watch_->setObjectName("watchIt");
  watch_->setCheckable(false);
  watch_->setAccessibleName(tr("Watch the spot as film"));
  watch_->hide();
  connect(watch_, &WordButton::clicked, this, &MainWindow::watch);
  mast->addWidget(watch_);
  mast->addSpacing(10);
  mast->addWidget(blackoutName);
  mast->addSpacing(6);
  mast->addWidget(blackout_);
  connect(projectButton_, &WordButton::clicked, this, &MainWindow::menu);
  connect(blackout_, &Switch::toggled, this, &MainWindow::setDark);
}

/// What stands under every page: how the project is kept, and the last message.
QHBoxLayout* MainWindow::makeFoot(QWidget* ground) {
  auto* foot = foot_ = new QHBoxLayout;
  foot->setContentsMargins(20, 2, 20, 4);
  foot->addStrut(20);  // the line about other shots comes and goes without a jump
  kept_ = new PlainLabel(tr("Every change is kept as you make it"), ground);
  kept_->setObjectName("keptNote");
  messages_ = new PlainLabel(ground);
  messages_->setObjectName("message");
  messages_->setAccessibleName(tr("Last message"));
  messages_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  foot->addWidget(kept_);
  foot->addWidget(messages_, 1);
  auto* cancel = new WordButton(tr("Cancel"), WordButton::Look::chip, ground);
  cancel->setObjectName("cancelPaper");
  cancel->setCheckable(false);
  cancel->setAccessibleName(tr("Stop writing"));
  cancel->hide();
  foot->addWidget(cancel);
  papers_ = std::make_unique<PaperDesk>(this, cancel);
  connect(papers_.get(), &PaperDesk::say, this, &MainWindow::say);
  connect(papers_.get(), &PaperDesk::written, this, &MainWindow::paperWritten);
  return foot;
}

/// Keys that work everywhere.
void MainWindow::makeKeys() {
  const auto key = [this](const QKeySequence& keys, auto action) {
    connect(new QShortcut(keys, this), &QShortcut::activated, this, action);
  };
  key(QKeySequence::Undo, [this] {
    if (session_) session_->undo();
  });
  key(QKeySequence("Ctrl+Shift+Z"), [this] {
    if (session_) session_->redo();
  });
  for (const PageRow& row : pageRows()) key(QKeySequence(row.key), [this, id = row.id] { showPage(id); });
  key(QKeySequence::New, [this] { newProject(); });
  key(QKeySequence::Open, [this] { openProject(); });
  key(QKeySequence("Ctrl+B"), [this] { blackout_->toggle(); });
  key(QKeySequence("Ctrl+K"), [this] { showVersions(); });
  key(Qt::Key_F6, [this] { showSettings(); });
  key(QKeySequence::Print, [this] { papers_->showPaper(true); });
  key(QKeySequence("F1"), [this] { showKeys(this); });
  key(QKeySequence("F5"), [this] { watch(); });
}

MainWindow::~MainWindow() {
  papers_.reset();
  for (auto* sheet : findChildren<WatchSheet*>()) delete sheet;  // before the session and the film that it shows
  film_.reset();
  opener_.reset();
  maker_->stop();
  delete takeCentralWidget();  // the pages go before what they look at
  session_.reset();
}

void MainWindow::setDark(bool dark) {
  setTheme(dark);
  qApp->setStyleSheet(cinnabar::styleSheet());
  const QString quiet = QString("color: %1; font-size: 11px;").arg(theme().quiet.name());
  for (QLabel* label : {kept_, messages_, aim_}) label->setStyleSheet(quiet);
  if (session_) emit session_->changed();
  update();
  for (QWidget* w : findChildren<QWidget*>()) w->update();
}

/// The strip and the first page; the others are made when they are first gone to.
void MainWindow::buildPages() {
  strip_ = new SpotStrip(session_.get(), foresight_.get(), body_);
  pages_ = new QStackedWidget(body_);
  body_->layout()->addWidget(strip_);
  body_->layout()->addWidget(pages_);
  static_cast<QVBoxLayout*>(body_->layout())->setStretchFactor(pages_, 1);
  showPage(page_);
}

WindowPage* MainWindow::page(const QString& id) {
  if (const auto made = pageById_.find(id); made != pageById_.end()) return made->second;
  const auto row =
      std::find_if(pageRows().begin(), pageRows().end(), [&](const PageRow& r) { return id == r.id; });
  WindowPage* page = row->make({session_.get(), foresight_.get(), maker_.get()}, pages_);
  connect(page, &WindowPage::pageWanted, this, &MainWindow::showPage);
  connect(page, &WindowPage::actionWanted, this, &MainWindow::act);
  pages_->addWidget(page);
  pageById_[id] = page;
  if (auto* stage = qobject_cast<StagePage*>(page)) stage->setBench(options_.bench);
  return page;
}

StagePage* MainWindow::stage() { return session_ ? qobject_cast<StagePage*>(page("stage")) : nullptr; }

void MainWindow::buildBegin() {
  begin_ = new BeginPage(inside_);
  begin_->setGeometry(inside_->rect());
  connect(begin_, &BeginPage::message, this, &MainWindow::say);
  connect(begin_, &BeginPage::taken, this, &MainWindow::makeProject);
  connect(begin_, &BeginPage::openWanted, this, &MainWindow::openFile);
  connect(begin_, &BeginPage::exampleWanted, this, &MainWindow::openExample);
  connect(begin_, &BeginPage::backWanted, this, [this] {
    if (session_) showPage(page_);
  });
}

bool MainWindow::beginning() const { return begin_ && begin_->isVisible(); }

/// Begin, where nothing is open and nothing is being opened.
void MainWindow::showEvent(QShowEvent* event) {
  QMainWindow::showEvent(event);
  if (!session_ && !begin_ && opening_ == 0) showBegin(true);
}

/// How the open project is kept.
void MainWindow::tellKept() {
  kept_->setText(!readOnly_.isEmpty()   ? tr("Open for reading only: %1").arg(readOnly_)
                 : session_->held() > 0 ? counted(session_->held(), tr("%1 change held here, not on the disk yet"),
                                                  tr("%1 changes held here, not on the disk yet"))
                                        : tr("Every change is kept as you make it"));
  const bool plain = readOnly_.isEmpty() && session_->held() == 0;
  kept_->setVisible(!(plain && elsewhere_ && elsewhere_->tells()));
}

void MainWindow::showBegin(bool on) {
  if (on && !begin_) buildBegin();
  const bool was = beginning();
  if (begin_) begin_->setVisible(on);
  body_->setVisible(!on);
  watch_->setVisible(!on && session_ && !session_->project().shots.empty());
  if (on) {
    begin_->setBehind(session_ ? q(session_->project().name) : QString());
    for (const auto& [id, button] : pageButtons_) button->setChecked(false);
    kept_->setText(tr("Nothing is kept until a draft is taken"));
    if (!was || !session_) begin_->refresh();
    begin_->takeFocus();
  } else if (was && session_) {
    tellKept();
  }
}

void MainWindow::showPage(const QString& name) {
  if (session_) showBegin(false);
  page_ = pageButtons_.contains(name) ? name : QString("stage");
  for (const auto& [id, button] : pageButtons_) button->setChecked(id == page_);
  if (!pages_) return;
  for (const PageRow& row : pageRows())
    if (page_ == row.id) strip_->setVisible(row.strip);
  WindowPage* shown = page(page_);
  pages_->setCurrentWidget(shown);
  askLight();
  pages_->setFocus();
  shown->takeFocus();
}

/// What a page asks the window to do.
void MainWindow::act(WindowAction action) {
  switch (action) {
    case WindowAction::read_shots:
      return papers_->readShots();
    case WindowAction::packing_paper:
      return papers_->askPaper(Paper::packing);
    case WindowAction::packing_table:
      return papers_->askPackingTable();
  }
}

void MainWindow::adopt(OpenedProject project) {
  for (auto* sheet : findChildren<WatchSheet*>()) delete sheet;
  delete elsewhere_;
  delete pages_;
  pages_ = nullptr;
  pageById_.clear();
  while (QLayoutItem* item = body_->layout()->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  readOnly_ = project.readOnly;
  session_ = std::make_unique<Session>(std::move(project));
  papers_->lookAt(session_.get());
  leaveHeld_ = false;
  tellKept();
  connect(session_.get(), &Session::heldChanged, this, &MainWindow::tellKept);
  const auto titles = [this] {
    projectButton_->setText(QString::fromStdString(session_->project().name));
    projectButton_->setAccessibleName(tr("Project %1").arg(projectButton_->text()));
    projectButton_->updateGeometry();
    watch_->setVisible(!beginning() && !session_->project().shots.empty());
    const Json* info = session_->document().single("project");
    const QString aim = info ? QString::fromStdString(info->value("aim", "")) : QString();
    aim_->setText(aim_->fontMetrics().elidedText(aim, Qt::ElideRight, std::max(40, width() / 4)));
    setWindowTitle(tr("%1 - Cinnabar").arg(projectButton_->text()));
  };
  connect(session_.get(), &Session::changed, this, titles);
  connect(session_.get(), &Session::message, this, &MainWindow::say);
  const auto look = [this] {
    levelsClose_ = false;
    if (session_->shot()) foresight_->askLevels(session_->project(), session_->shotIndex());
    askLight();
    if (!session_->previewing()) foresight_->askGlances(session_->document(), session_->project());
  };
  connect(session_.get(), &Session::changed, this, look);
  connect(session_.get(), &Session::shotChanged, this, look);
  connect(session_.get(), &Session::timeChanged, this, &MainWindow::askLight);
  titles();
  elsewhere_ = new ElsewhereLine(session_.get(), foresight_.get(), foot_->parentWidget());
  foot_->insertWidget(0, elsewhere_, 5);
  connect(elsewhere_, &ElsewhereLine::telling, kept_, [this] { tellKept(); });
  buildPages();
  session_->selectShot(static_cast<std::size_t>(std::max(0, options_.shot - 1)));
  emit session_->shotChanged();
  emit session_->changed();
  if (!options_.level.isEmpty()) {
    auto opener = std::make_shared<QMetaObject::Connection>();
    *opener =
        connect(foresight_.get(), &Foresight::levels, this, [this, opener](const std::vector<Level>&, bool close) {
          if (!close) return;
          disconnect(*opener);
          stage()->levels()->open(options_.level);
        });
  }
  recall();
  remember(session_->path());
  if (walk_) walk_->deleteLater();
  if (options_.walk && is_example(*session_) && !QSettings().value("walked", false).toBool()) showMe();
  emit opened();
}

void MainWindow::showMe() {
  if (!session_ || !session_->shot()) return;
  if (walk_) delete walk_;
  QSettings().setValue("walked", true);
  showPage("stage");
  walk_ = new ShowMe(this);
}

/// The light at the moment that is looked at; the Stage alone shows it.
void MainWindow::askLight() {
  if (session_ && session_->shot() && page_ == "stage")
    foresight_->askLight(session_->project(), session_->shotIndex(), session_->setTime());
}

/// The page and shot that the last window on this file ended with.
void MainWindow::recall() {
  if (!options_.remember || !session_) return;
  QSettings settings;
  const QString key = "shots/" + QString::fromUtf8(session_->path().toUtf8().toHex().right(120));
  if (!settings.contains(key)) return;  // seen for the first time
  session_->selectShot(static_cast<std::size_t>(std::max(0, settings.value(key, 0).toInt())));
  showPage(settings.value("page", page_).toString());
}

void MainWindow::showVersions() {
  if (session_) (new VersionsDialog(session_.get(), this))->open();
}

void MainWindow::watch() {
  if (!session_ || session_->project().shots.empty() || beginning()) return;
  if (!film_) film_ = std::make_unique<FilmMaker>();
  (new WatchSheet(session_.get(), film_.get(), this))->open();
}

void MainWindow::showSettings() {
  if (session_ && session_->shot() && !beginning()) (new SettingsSheet(session_.get(), this))->open();
}

void MainWindow::switchUnits() {
  const bool metric = session_->units() == Units::metric;
  session_->keep(metric ? tr("Measured in feet and inches") : tr("Measured in metres"),
                 {{"/project/units", metric ? "imperial" : "metric"}});
}

void MainWindow::remember(const QString& path) {
  QSettings settings;
  QStringList recent = settings.value("recent").toStringList();
  recent.removeAll(QFileInfo(path).absoluteFilePath());
  recent.prepend(QFileInfo(path).absoluteFilePath());
  settings.setValue("recent", recent.mid(0, 8));
}

void MainWindow::menu() {
  auto* menu = new QMenu(this);
  menu->setObjectName("projectActions");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  menu->addAction(tr("New project\tCtrl+N"), this, &MainWindow::newProject);
  menu->addAction(tr("Open\tCtrl+O"), this, &MainWindow::openProject);
  const QStringList recent = QSettings().value("recent").toStringList();
  if (!recent.isEmpty()) menu->addSeparator();
  for (const QString& path : recent) {
    if (session_ && QFileInfo(session_->path()).absoluteFilePath() == path) continue;
    menu->addAction(plainAction(QFileInfo(path).completeBaseName()), this, [this, path] { openFile(path); })
        ->setToolTip(plainTip(path));
  }
  if (session_) {
    menu->addSeparator();
    auto* undo = menu->addAction(session_->undoTitle().isEmpty()
                                     ? tr("Undo\tCtrl+Z")
                                     : tr("Undo: %1\tCtrl+Z").arg(plainAction(session_->undoTitle())),
                                 this, [this] { session_->undo(); });
    undo->setEnabled(!session_->undoTitle().isEmpty());
    auto* redo = menu->addAction(session_->redoTitle().isEmpty()
                                     ? tr("Redo\tCtrl+Shift+Z")
                                     : tr("Redo: %1\tCtrl+Shift+Z").arg(plainAction(session_->redoTitle())),
                                 this, [this] { session_->redo(); });
    redo->setEnabled(!session_->redoTitle().isEmpty());
    menu->addSeparator();
    if (session_->shot()) menu->addAction(tr("Watch it\tF5"), this, &MainWindow::watch);
    if (session_->shot()) menu->addAction(tr("What to dial in\tF6"), this, &MainWindow::showSettings);
    menu->addAction(tr("Save a copy"), this, &MainWindow::askCopy);
    if (session_->held() > 0) menu->addAction(tr("Try the disk again"), this, [this] { session_->tryAgain(); });
    menu->addAction(tr("Shot cards on paper\tCtrl+P"), this, [this] { papers_->showPaper(true); });
    menu->addAction(tr("Board for the client as PDF"), this, [this] { papers_->askPaper(Paper::board); });
    menu->addAction(tr("Board for the crew as PDF"), this, [this] { papers_->askPaper(Paper::crew); });
    menu->addAction(tr("Shot list on paper"), this, [this] { papers_->showPaper(false); });
    menu->addAction(tr("Shot list as a table"), this, [this] { papers_->writeTable(false); });
    menu->addAction(tr("Takes as a table"), this, [this] { papers_->writeTable(true); });
    menu->addAction(tr("Packing list on paper"), this, [this] { papers_->askPaper(Paper::packing); });
    menu->addAction(tr("Settings cards on paper"), this, [this] { papers_->askPaper(Paper::settings); });
    menu->addAction(tr("Packing list as a table"), this, [this] { papers_->askPackingTable(); });
    if (session_->shot()) menu->addAction(tr("Cue track of this shot"), this, [this] { papers_->askCues(); });
    if (session_->shot()) menu->addAction(tr("The spot as a film"), this, [this] { papers_->askAnimatic(); });
    menu->addAction(tr("Read shots from a table"), papers_.get(), &PaperDesk::readShots);
    menu->addAction(tr("Read takes from a table"), papers_.get(), &PaperDesk::readTakes);
    menu->addAction(tr("Kept versions\tCtrl+K"), this, &MainWindow::showVersions);
    menu->addAction(
        session_->units() == Units::metric ? tr("Measure in feet and inches") : tr("Measure in metres"), this,
        &MainWindow::switchUnits);
  }
  auto* sizes = menu->addMenu(tr("Size of text and drawings"));
  sizes->setObjectName("sizes");
  const int now = QSettings().value("scale", 100).toInt();
  for (const int percent : {100, 125, 150, 175, 200}) {
    auto* size = sizes->addAction(tr("%1 %").arg(percent), this, [this, percent] {
      QSettings().setValue("scale", percent);
      say(tr("Text and drawings are %1 % from the next start on").arg(percent));
    });
    size->setCheckable(true);
    size->setChecked(percent == now);
  }
  if (session_ && session_->shot()) menu->addAction(tr("Show me"), this, &MainWindow::showMe);
  menu->addAction(tr("Keys\tF1"), this, [this] { showKeys(this); });
  menu->addSeparator();
  menu->addAction(tr("Leave\tAlt+F4"), this, &MainWindow::close);
  menu->popup(projectButton_->mapToGlobal(QPoint(0, projectButton_->height())));
}

void MainWindow::say(const QString& text) {
  // Beside the line about other shots an edit's title may be cut short, what went wrong may not.
  const bool beside = elsewhere_ && elsewhere_->tells(), title = session_ && text == session_->undoTitle();
  const int room = !beside ? std::max(200, width() - 300) : title ? width() / 7 : width() / 2;
  const QFontMetrics metrics = messages_->fontMetrics();
  messages_->setMinimumWidth(beside && !title ? std::min(room, metrics.horizontalAdvance(text)) : 0);
  messages_->setText(metrics.elidedText(text, Qt::ElideMiddle, room));
  messages_->setToolTip(plainTip(text));
  messages_->setAccessibleDescription(text);
}

void MainWindow::readShotsFrom(const QString& path) { papers_->readShotsFrom(path); }

bool MainWindow::settled() const {
  if (beginning()) return !begin_->drafting();
  if (!session_) return false;
  if (!session_->shot()) return true;
  bool glances = true;
  for (const auto& shot : session_->project().shots) {
    const ShotGlance* glance = foresight_->glance(shot->id);
    glances = glances && glance && glance->known;
  }
  return levelsClose_ && glances && pageById_.at(page_)->settled();
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (session_) {
    session_->flush();
    QCoreApplication::sendPostedEvents(session_.get());  // what the files' thread last had to say
    if (session_->held() > 0 && !leaveHeld_) {
      event->ignore();
      return tellHeld();
    }
  }
  if (options_.remember) {
    QSettings settings;
    settings.setValue("size", size());
    settings.setValue("page", page_);
    settings.setValue("dark", theme().dark);
    if (session_)
      settings.setValue("shots/" + QString::fromUtf8(session_->path().toUtf8().toHex().right(120)),
                        static_cast<int>(session_->shotIndex()));
  }
  event->accept();
}

}  // namespace cinnabar
