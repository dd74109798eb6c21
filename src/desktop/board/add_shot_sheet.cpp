#include "cinnabar/desktop/board/add_shot_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {

bool keepMove(Session& session, const Document& before, const MoveMade& made) {
  const QString title = q(made.document.list("shots")[made.shot]->value("name", ""));
  if (!edit_between(before, session.document(), "").changes.empty()) {
    emit session.message(QObject::tr("The project changed meanwhile; ask for \"%1\" again").arg(title));
    return false;
  }
  if (!session.keep(edit_between(before, made.document, QObject::tr("Move made: %1").arg(title).toStdString())))
    return false;
  session.selectShot(made.shot);
  QStringList out;
  for (const Level& l : made.levels)
    if (l.state == State::out) out << q(l.title);
  emit session.message(out.isEmpty() ? QObject::tr("%1: no level is out").arg(title)
                                     : QObject::tr("%1: out are %2").arg(title, out.join(", ")));
  return true;
}

AddShotSheet::AddShotSheet(Session* session, Foresight* foresight, QWidget* parent)
    : QDialog(parent), session_(session), foresight_(foresight) {
  beginSheet(this, "addShotSheet", tr("A shot from which move?"), {520, 460});
  auto* all = new QVBoxLayout(this);
  const std::size_t after = session->shotIndex();
  auto* where = new PlainLabel(
      session->shot()
          ? tr("It comes after shot %1, on its set-up, made for this product, kit and house rules, and "
               "brought as near to level as they allow.")
                .arg(after + 1)
          : tr("The first shot, with a set-up of its own where there is none yet; made for this product, "
               "kit and house rules."),
      this);
  where->setWordWrap(true);
  all->addWidget(where);
  list_ = new QListWidget(this);
  list_->setObjectName("addShotMoves");
  list_->setAccessibleName(tr("Ready moves"));
  for (const ReadyMove& move : ready_moves()) {
    auto* item = new QListWidgetItem(q(move.title) + ":  " + q(move.what), list_);
    item->setData(Qt::UserRole, q(move.id));
    if (!move.later.empty()) item->setToolTip(plainTip(tr("To be computed later: %1").arg(q(move.later))));
  }
  list_->setCurrentRow(0);
  all->addWidget(list_, 1);
  note_ = new PlainLabel(this);
  note_->setObjectName("addShotNote");
  note_->setWordWrap(true);
  all->addWidget(note_);
  auto* row = new QHBoxLayout;
  auto* copy =
      new QPushButton(session->shot() ? tr("A copy of shot %1").arg(after + 1) : tr("A plain shot"), this);
  copy->setObjectName("addShotCopy");
  copy->setAutoDefault(false);
  make_ = new QPushButton(tr("Make it"), this);
  make_->setObjectName("addShotMake");
  make_->setDefault(true);
  auto* leave = new QPushButton(tr("Cancel"), this);
  leave->setObjectName("addShotCancel");
  leave->setAutoDefault(false);
  row->addWidget(copy);
  row->addStretch(1);
  row->addWidget(leave);
  row->addWidget(make_);
  all->addLayout(row);
  connect(make_, &QPushButton::clicked, this, &AddShotSheet::make);
  connect(list_, &QListWidget::itemActivated, this, &AddShotSheet::make);
  connect(copy, &QPushButton::clicked, this, [this] {
    session_->addShot();
    close();
  });
  connect(leave, &QPushButton::clicked, this, &QDialog::close);
  connect(foresight_, &Foresight::moveMade, this,
          [this](int number, const Document& before, const std::shared_ptr<const Expected<MoveMade>>& made) {
            if (number == move_) cameBack(before, *made);
          });
  list_->setFocus();
}

AddShotSheet::~AddShotSheet() { foresight_->stopMove(move_); }

void AddShotSheet::make() {
  const auto* item = list_->currentItem();
  if (!item || move_ != 0) return;
  make_->setEnabled(false);
  note_->setText(tr("Making \"%1\"; Cancel stops it").arg(item->text().section(':', 0, 0)));
  const std::size_t place = session_->shot() ? session_->shotIndex() + 1 : 0;
  move_ = foresight_->askMove(session_->document(), item->data(Qt::UserRole).toString().toStdString(), place, {});
}

void AddShotSheet::cameBack(const Document& before, const Expected<MoveMade>& made) {
  move_ = 0;
  make_->setEnabled(true);
  if (!made) return note_->setText(q(made.error().text()));
  if (keepMove(*session_, before, *made))
    close();
  else
    note_->setText(tr("The project changed meanwhile; ask again"));
}

}  // namespace cinnabar
