#include "cinnabar/desktop/pages/kit_page.h"

#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPointer>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>

#include "cinnabar/base/files.h"
#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/photometry/ies.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/project/making/starter_kits.h"

namespace cinnabar {
namespace {

QLabel* heading(const QString& text, QWidget* parent) {
  auto* label = new PlainLabel(text, parent);
  label->setFont(textFont(14, true));
  label->setStyleSheet("font-weight: bold; font-size: 14px;");
  return label;
}
QListWidget* plainList(const char* name, const QString& accessible, QWidget* parent) {
  auto* list = new QListWidget(parent);
  list->setObjectName(name);
  list->setAccessibleName(accessible);
  list->setWordWrap(true);
  list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list->setTextElideMode(Qt::ElideNone);
  return list;
}
WordButton* word(const QString& text, const char* name, const QString& tip, QWidget* parent) {
  auto* b = new WordButton(text, WordButton::Look::plain, parent);
  b->setObjectName(name);
  b->setAccessibleName(tip);
  b->setToolTip(tip);
  return b;
}

/// "Bring home in shot 2 depth of focus" and so on, in the order of the shots.
QString told(const Bought& b) {
  QStringList homes, better, worse;
  const auto name = [](const Gain& g) { return QObject::tr("%1 (shot %2)").arg(q(g.title)).arg(g.shot + 1); };
  for (const Gain& g : b.gains) (g.after == State::level ? homes : better) << name(g);
  for (const Gain& g : b.losses) worse << name(g);
  QStringList lines;
  if (!homes.isEmpty()) lines << QObject::tr("Brings home: %1").arg(homes.join(", "));
  if (!better.isEmpty()) lines << QObject::tr("Helps: %1").arg(better.join(", "));
  if (!worse.isEmpty()) lines << QObject::tr("Costs: %1").arg(worse.join(", "));
  if (!b.how.empty()) {
    QStringList how;
    for (const std::string& h : b.how) how << q(h);
    lines << QObject::tr("With %1").arg(how.join("; "));
  }
  if (lines.isEmpty()) lines << QObject::tr("Brings no level home.");
  return lines.join("\n");
}

}  // namespace

KitPage::KitPage(Session* session, QWidget* parent) : WindowPage(parent), session_(session) {
  setObjectName("kit");
  auto* leftBox = owned();
  thing_ = new KitThing(session, this);

  auto* middle = new QScrollArea(this);
  middle->setWidgetResizable(true);
  middle->setFrameShape(QFrame::NoFrame);
  middle->setFocusPolicy(Qt::NoFocus);
  middle->setWidget(thing_);

  auto* rightBox = missing();
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(20, 12, 20, 4);
  all->setSpacing(14);
  all->addWidget(leftBox);
  all->addWidget(middle, 3);
  all->addWidget(rightBox, 2);
  connect(list_, &QListWidget::currentRowChanged, this, &KitPage::chooseRow);
  connect(session_, &Session::changed, this, &KitPage::refresh);
  connect(thing_, &KitThing::measuredWanted, this, &KitPage::askMeasured);
}

/// What is owned, and what adds to it.
QWidget* KitPage::owned() {
  list_ = plainList("kitList", tr("Things of the kit"), this);
  list_->setAccessibleDescription(tr("Up and Down choose, Delete takes the thing away"));
  list_->installEventFilter(this);
  auto* addButton = new QPushButton(tr("Add"), this);
  addButton->setObjectName("kitAdd");
  auto* addMenu = new QMenu(addButton);
  addMenu->setObjectName("kitAddMenu");
  for (const KitGroup& group : kitGroups())
    addMenu->addAction(group.one, this, [this, list = std::string(group.list)] { add(list); });
  addButton->setMenu(addMenu);
  auto* starter = new QPushButton(tr("Begin with a kit"), this);
  starter->setObjectName("kitStarter");
  auto* starterMenu = new QMenu(starter);
  starterMenu->setObjectName("kitStarterMenu");
  for (const StarterKit& kit : starter_kits())
    starterMenu->addAction(tr("%1: %2").arg(q(kit.name), q(kit.what)), this,
                           [this, id = kit.id] { addStarter(id); });
  starter->setMenu(starterMenu);
  auto* takeAway = new QPushButton(tr("Take away"), this);
  takeAway->setObjectName("kitRemove");
  connect(takeAway, &QPushButton::clicked, this, &KitPage::removeChosen);
  auto* tools = new QHBoxLayout;
  tools->addWidget(addButton);
  tools->addWidget(takeAway);
  tools->addStretch(1);
  auto* left = new QVBoxLayout;
  left->addWidget(heading(tr("What is owned"), this));
  left->addWidget(list_, 1);
  left->addLayout(tools);
  left->addWidget(starter);
  auto* box = new QWidget(this);
  box->setLayout(left);
  left->setContentsMargins(0, 0, 0, 0);
  box->setFixedWidth(250);
  return box;
}

/// What the shots are short of, and what something not owned would buy.
QWidget* KitPage::missing() {
  short_ = plainList("kitShort", tr("What the shots are short of"), this);
  packed_ = new PlainLabel(this);
  packed_->setObjectName("kitPacked");
  packed_->setWordWrap(true);
  auto* paper = word(tr("Packing list"), "kitPackingPaper", tr("The packing list as PDF"), this);
  auto* table = word(tr("as a table"), "kitPackingTable", tr("The packing list as a table (CSV)"), this);
  connect(paper, &WordButton::clicked, this, [this] { emit actionWanted(WindowAction::packing_paper); });
  connect(table, &WordButton::clicked, this, [this] { emit actionWanted(WindowAction::packing_table); });
  auto* packing = new QHBoxLayout;
  packing->addWidget(packed_, 1);
  packing->addWidget(paper);
  packing->addWidget(table);

  bought_ = plainList("kitBought", tr("What something not owned would buy"), this);
  workOut_ = new QPushButton(tr("Work it out"), this);
  workOut_->setObjectName("kitWorkOut");
  cancel_ = new WordButton(tr("Cancel"), WordButton::Look::chip, this);
  cancel_->setObjectName("kitCancel");
  cancel_->setCheckable(false);
  cancel_->hide();
  progress_ =
      new PlainLabel(tr("Every shot is staged with a thing that is not owned, and its levels are read."), this);
  progress_->setObjectName("kitProgress");
  progress_->setWordWrap(true);
  put_ = word(tr("Put on the list"), "kitPut", tr("Keep the chosen thing in the kit as not owned, to price it"),
              this);
  put_->setEnabled(false);
  auto* buyTools = new QHBoxLayout;
  buyTools->addWidget(workOut_);
  buyTools->addWidget(cancel_);
  buyTools->addStretch(1);
  buyTools->addWidget(put_);
  connect(workOut_, &QPushButton::clicked, this, &KitPage::workOut);
  connect(cancel_, &WordButton::clicked, this, [this] {
    worker_.stop();
    ++ticket_;
    cancel_->hide();
    workOut_->setEnabled(true);
    progress_->setText(tr("Stopped."));
  });
  connect(put_, &WordButton::clicked, this, &KitPage::putOnList);
  connect(bought_, &QListWidget::currentRowChanged, this, [this](int row) {
    const bool idea = row >= 0 && static_cast<std::size_t>(row) < results_.size() &&
                      !results_[static_cast<std::size_t>(row)].thing.stands_for.empty();
    put_->setEnabled(idea && !session_->readOnly());
  });
  auto* right = new QVBoxLayout;
  right->addWidget(heading(tr("Short of"), this));
  right->addWidget(short_, 2);
  right->addLayout(packing);
  right->addSpacing(6);
  right->addWidget(heading(tr("What would this buy me"), this));
  right->addWidget(progress_);
  right->addWidget(bought_, 4);
  right->addLayout(buyTools);
  auto* box = new QWidget(this);
  box->setLayout(right);
  right->setContentsMargins(0, 0, 0, 0);
  box->setMinimumWidth(270);
  box->setMaximumWidth(380);
  return box;
}

void KitPage::takeFocus() { list_->setFocus(); }

void KitPage::refresh() {
  if (!isVisible()) return;  // brought up to date when it is shown
  fill();
  checks();
}

void KitPage::fill() {
  std::vector<std::pair<std::string, std::vector<JsonPtr>>> now;
  for (const KitGroup& group : kitGroups()) now.emplace_back(group.list, session_->document().list(group.list));
  if (now == shown_ && list_->count() > 0) return;
  shown_ = now;
  const KitPlace before = thing_->place();
  filling_ = true;
  list_->clear();
  rows_.clear();
  int chosen = -1;
  for (const KitGroup& group : kitGroups()) {
    const auto& items = session_->document().list(group.list);
    if (items.empty()) continue;
    auto* head = new QListWidgetItem(group.name, list_);
    head->setFlags(Qt::NoItemFlags);
    head->setForeground(theme().quiet);
    rows_.emplace_back();
    for (std::size_t i = 0; i < items.size(); ++i) {
      const bool owned = items[i]->value("owned", true);
      QString text = kitName(*items[i]);
      if (!owned) text = tr("%1 (not owned)").arg(text);
      auto* row = new QListWidgetItem(text + "\n" + kitLine(group.list, *items[i], session_->units()), list_);
      if (!owned) row->setForeground(theme().leaningInk);
      rows_.push_back(KitPlace{group.list, i});
      if (*rows_.back() == before) chosen = list_->count() - 1;
    }
  }
  filling_ = false;
  if (chosen < 0)
    for (std::size_t i = 0; i < rows_.size() && chosen < 0; ++i)
      if (rows_[i]) chosen = static_cast<int>(i);
  list_->setCurrentRow(chosen);
  chooseRow();
}

void KitPage::chooseRow() {
  if (filling_) return;
  const auto row = static_cast<std::size_t>(std::max(0, list_->currentRow()));
  thing_->show(list_->currentRow() >= 0 && row < rows_.size() && rows_[row] ? *rows_[row] : KitPlace{});
}

void KitPage::add(const std::string& list) {
  Document next = session_->document();
  const Json item = new_kit_item(next, list);
  next.lists[list].push_back(std::make_shared<const Json>(item));
  const KitPlace place{list, next.lists[list].size() - 1};
  if (!session_->keep(
          edit_between(session_->document(), next, tr("%1 added to the kit").arg(kitName(item)).toStdString())))
    return;
  for (std::size_t i = 0; i < rows_.size(); ++i)
    if (rows_[i] && *rows_[i] == place) list_->setCurrentRow(static_cast<int>(i));
}

void KitPage::addStarter(const std::string& id) {
  const auto next = with_starter_kit(session_->document(), id);
  if (!next) return;
  const Edit edit = edit_between(session_->document(), *next, tr("Kit begun with a starter kit").toStdString());
  if (edit.changes.empty()) return void(emit session_->message(tr("All of it is in the kit already")));
  session_->keep(edit);
}

void KitPage::removeChosen() {
  const KitPlace place = thing_->place();
  const Json* item = kitItem(session_->document(), place);
  if (!item) return;
  Document next = session_->document();
  auto& items = next.lists[place.list];
  items.erase(items.begin() + static_cast<std::ptrdiff_t>(place.index));
  const Edit edit =
      edit_between(session_->document(), next, tr("%1 taken from the kit").arg(kitName(*item)).toStdString());
  if (const auto faults = validate(next, edit); !faults.empty())
    return void(
        emit session_->message(tr("%1 stays: it is used (%2)")
                                   .arg(kitName(*item), q(faults.front().path + " " + faults.front().message))));
  session_->keep(edit);
}

bool KitPage::eventFilter(QObject* object, QEvent* event) {
  if (object == list_ && event->type() == QEvent::KeyPress &&
      static_cast<QKeyEvent*>(event)->key() == Qt::Key_Delete) {
    removeChosen();
    return true;
  }
  return QWidget::eventFilter(object, event);
}

void KitPage::checks() {
  const Packing packed = packing(session_->project());
  short_->clear();
  const auto list = shortages(session_->project(), packed);
  for (const std::string& line : list) {
    auto* row = new QListWidgetItem(q(line), short_);
    row->setForeground(theme().accent);
  }
  if (list.empty())
    short_->addItem(packed.things.empty() ? tr("No shot needs anything yet.")
                                          : tr("Nothing: all that the shots need is there."));
  packed_->setText(tr("%1 kinds to carry in").arg(packed.things.size()) +
                   (packed.cost > 0 ? tr(", %1 to get").arg(q(number_text(packed.cost, 7))) : QString()));
}

void KitPage::workOut() {
  const auto things = std::make_shared<const std::vector<Acquisition>>(acquisitions(session_->document()));
  if (things->empty()) return progress_->setText(tr("There is nothing yet to think of: the shots use no kit."));
  const int ticket = ++ticket_;
  workOut_->setEnabled(false);
  cancel_->show();
  progress_->setText(tr("Staging %1 things").arg(things->size()));
  const QPointer<KitPage> self(this);
  const auto tell = [self, ticket](auto action) {
    later(self, [self, ticket, action] {
      if (self->ticket_ == ticket) action(*self);
    });
  };
  worker_.ask([tell, things, document = session_->document()](const std::atomic<bool>& cancelled) {
    const Forecaster forecaster(search_measure);
    const auto bought = std::make_shared<const std::vector<Bought>>(ranked(
        forecaster, document, *things,
        [&](std::size_t done) {
          tell([done, all = things->size()](KitPage& page) {
            page.progress_->setText(tr("%1 of %2 staged").arg(done).arg(all));
          });
        },
        &cancelled));
    if (!cancelled) tell([bought](KitPage& page) { page.showBought(*bought); });
  });
}

void KitPage::showBought(const std::vector<Bought>& bought) {
  workOut_->setEnabled(true);
  cancel_->hide();
  results_ = bought;
  bought_->clear();
  int useful = 0;
  for (const Bought& b : results_) {
    QString title = q(b.thing.title);
    if (b.thing.price)
      title += b.per_hundred() && b.homes > 0
                   ? tr(", at %1: %2 levels for each 100")
                         .arg(q(number_text(*b.thing.price, 6)), q(number_text(*b.per_hundred(), 3)))
                   : tr(", at %1").arg(q(number_text(*b.thing.price, 6)));
    auto* row = new QListWidgetItem(title + "\n" + told(b), bought_);
    if (b.homes == 0) row->setForeground(theme().quiet);
    useful += b.homes > 0 ? 1 : 0;
  }
  progress_->setText(
      useful == 0 ? tr("None of %1 things brings a level home.").arg(results_.size())
                  : tr("%1 of %2 things bring levels home; the best first.").arg(useful).arg(results_.size()));
}

/// An idea becomes a thing of the kit that is not owned, so that it can be priced and its numbers changed.
void KitPage::putOnList() {
  const int row = bought_->currentRow();
  if (row < 0 || static_cast<std::size_t>(row) >= results_.size()) return;
  const Acquisition& thing = results_[static_cast<std::size_t>(row)].thing;
  Document next = session_->document();
  Json item = *thing.item;
  item["owned"] = false;
  item.erase("second");
  item["id"] = fresh_id(next, thing.list, item.value("id", "wanted"));
  next.lists[thing.list].push_back(std::make_shared<const Json>(item));
  const KitPlace place{thing.list, next.lists[thing.list].size() - 1};
  if (!session_->keep(
          edit_between(session_->document(), next, tr("%1 put on the list").arg(q(thing.title)).toStdString())))
    return;
  for (std::size_t i = 0; i < rows_.size(); ++i)
    if (rows_[i] && *rows_[i] == place) list_->setCurrentRow(static_cast<int>(i));
}

void KitPage::askMeasured() {
  auto* dialog = fileDialog(this, tr("A measured light"), tr("IES LM-63 (*.ies *.IES);;All files (*)"));
  dialog->setObjectName("measuredDialog");
  connect(dialog, &QFileDialog::fileSelected, this, &KitPage::readMeasured);
  dialog->open();
}

void KitPage::readMeasured(const QString& path) {
  const KitPlace place = thing_->place();
  if (place.list != "kit/lights" || !kitItem(session_->document(), place)) return;
  const QPointer<KitPage> self(this);
  reader_.ask([self, path, place](const std::atomic<bool>& cancelled) {
    const auto text = read_file(path.toStdString(), largest_ies);
    QString fault;
    if (!text)
      fault = q(text.error().text());
    else if (const auto read = read_ies(*text, QFileInfo(path).fileName().toStdString()); !read)
      fault = q(read.error().text());
    const std::string bytes = text.value_or(std::string());
    if (cancelled) return;
    later(self, [self, place, bytes, fault, name = QFileInfo(path).completeBaseName()] {
      Session* session = self->session_;
      if (!fault.isEmpty()) return void(emit session->message(fault));
      const Json* item = kitItem(session->document(), place);
      if (!item) return;
      Document next = session->document();
      std::string id = "ies-" + item->value("id", "light");
      for (int k = 2; next.blobs.contains(id); ++k)
        id = "ies-" + item->value("id", "light") + "-" + std::to_string(k);
      next.blobs[id] = std::make_shared<const Blob>(
          Blob{Json{{"type", "application/x-ies"}, {"name", name.toStdString()}}, {bytes.begin(), bytes.end()}});
      Json changed = *item;
      changed["ies"] = id;
      next.lists[place.list][place.index] = std::make_shared<const Json>(changed);
      session->keep(edit_between(session->document(), next,
                                 tr("%1: measured light %2").arg(kitName(changed), name).toStdString()));
    });
  });
}

void KitPage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

}  // namespace cinnabar
