#include "cinnabar/desktop/board/conflicts_sheet.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/project/checks/validation.h"

namespace cinnabar {

ConflictsSheet::ConflictsSheet(Session* session, std::vector<ShotConflict> conflicts, QWidget* parent)
    : QDialog(parent), session_(session), conflicts_(std::move(conflicts)) {
  beginSheet(this, "conflicts", tr("Changed here and in the file"), {680, 360});
  auto* how = new PlainLabel(
      tr("These values were changed on both sides since the file was written. Tick those to take from "
         "the file; the others stay as they are here."),
      this);
  how->setWordWrap(true);
  table_ = new QTableWidget(static_cast<int>(conflicts_.size()), 5, this);
  table_->setObjectName("conflictTable");
  table_->setAccessibleName(tr("Values changed on both sides"));
  table_->setHorizontalHeaderLabels({tr("take"), tr("shot"), tr("value"), tr("here"), tr("in the file")});
  table_->verticalHeader()->hide();
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setSectionResizeMode(4, QHeaderView::Stretch);
  for (int r = 0; r < table_->rowCount(); ++r) {
    const ShotConflict& c = conflicts_[static_cast<std::size_t>(r)];
    auto* tick = new QTableWidgetItem;
    tick->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
    tick->setCheckState(Qt::Unchecked);
    table_->setItem(r, 0, tick);
    int column = 1;
    for (const std::string& text : {c.name, c.field, c.mine, c.theirs})
      table_->setItem(r, column++, new QTableWidgetItem(QString::fromStdString(text)));
  }
  auto* all = new QVBoxLayout(this);
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, auto action) {
    auto* b = new QPushButton(text, this);
    b->setObjectName(name);
    connect(b, &QPushButton::clicked, this, action);
    row->addWidget(b);
  };
  button(tr("Tick all"), "tickAll", [this] {
    for (int r = 0; r < table_->rowCount(); ++r) table_->item(r, 0)->setCheckState(Qt::Checked);
  });
  row->addStretch(1);
  button(tr("Take the ticked"), "takeTicked", [this] { take(); });
  button(tr("Leave all"), "leaveAll", [this] { close(); });
  all->addWidget(how);
  all->addWidget(table_, 1);
  all->addLayout(row);
}

void ConflictsSheet::take() {
  std::vector<ShotConflict> theirs;
  for (int r = 0; r < table_->rowCount(); ++r)
    if (table_->item(r, 0)->checkState() == Qt::Checked) theirs.push_back(conflicts_[static_cast<std::size_t>(r)]);
  const Edit edit = conflicts_taken(session_->document(), theirs);
  const auto faults = validate(applied(session_->document(), edit), edit);
  if (!faults.empty())
    return void(
        emit session_->message(QString::fromStdString(faults.front().message + "; " + faults.front().mend)));
  session_->keep(edit);
  close();
}

}  // namespace cinnabar
