#include "cinnabar/desktop/board/paste_sheet.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace cinnabar {

PasteSheet::PasteSheet(Session* session, QWidget* parent) : QDialog(parent), session_(session) {
  beginSheet(this, "pasteSheet", tr("Shots from a list"), {640, 460});
  auto* how = new PlainLabel(
      tr("One shot a line: a name, then in any order a length, a size, a lens, a rate, a set-up. What "
         "is not understood becomes a note."),
      this);
  how->setWordWrap(true);
  words_ = new QPlainTextEdit(this);
  words_->setObjectName("pasteWords");
  words_->setAccessibleName(tr("The list, one shot a line"));
  words_->setPlaceholderText(
      tr("Hero reveal, wide, 3 s\nLid, macro, 100 mm, 36 frames\nPour, close, 120 fps, 5x slow, set-up B"));
  words_->setTabChangesFocus(true);
  count_ = new PlainLabel(this);
  count_->setObjectName("pasteCount");
  faults_ = new QPlainTextEdit(this);
  faults_->setObjectName("pasteFaults");
  faults_->setAccessibleName(tr("Lines that cannot be read"));
  faults_->setReadOnly(true);
  faults_->setMaximumHeight(90);
  faults_->hide();
  add_ = new QPushButton(tr("Add them"), this);
  add_->setObjectName("pasteAdd");
  auto* leave = new QPushButton(tr("Close"), this);
  leave->setAutoDefault(false);
  auto* row = new QHBoxLayout;
  row->addWidget(count_, 1);
  row->addWidget(add_);
  row->addWidget(leave);
  auto* all = new QVBoxLayout(this);
  all->addWidget(how);
  all->addWidget(words_, 1);
  all->addWidget(faults_);
  all->addLayout(row);
  connect(words_, &QPlainTextEdit::textChanged, this, &PasteSheet::refresh);
  connect(add_, &QPushButton::clicked, this, &PasteSheet::add);
  connect(leave, &QPushButton::clicked, this, &QDialog::close);
  refresh();
}

void PasteSheet::refresh() {
  add_->setEnabled(false);  // till the new text is read
  const QPointer<PasteSheet> self(this);
  reader_.ask([self, ticket = ++asked_, document = session_->document(),
               text = words_->toPlainText().toStdString()](const std::atomic<bool>& cancelled) {
    const auto read = std::make_shared<const Expected<ShotsRead>>(shots_from_words(document, text));
    if (cancelled) return;
    later(self, [self, read, ticket] {
      if (ticket == self->asked_) self->tell(*read);
    });
  });
}

void PasteSheet::tell(const Expected<ShotsRead>& read) {
  QStringList faults;
  if (!read) {
    faults << QString::fromStdString(read.error().text());
  } else {
    for (const std::string& f : read->faults) faults << QString::fromStdString(f);
  }
  const int added = read ? read->added : 0;
  edit_ = read ? read->edit : Edit{};
  count_->setText(added == 0 ? tr("No shot yet") : counted(added, tr("%1 shot"), tr("%1 shots")));
  add_->setEnabled(added > 0);
  faults_->setPlainText(faults.join('\n'));
  faults_->setVisible(!faults.isEmpty());
}

void PasteSheet::add() {
  const std::size_t first = session_->project().shots.size();
  if (!session_->keep(edit_)) return;
  session_->selectShot(first);
  close();
}

}  // namespace cinnabar
