#include "cinnabar/desktop/shell/versions_dialog.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/project/document/differences.h"

namespace cinnabar {

VersionsDialog::VersionsDialog(Session* session, QWidget* parent) : QDialog(parent), session_(session) {
  beginSheet(this, "versions", tr("Kept versions"), {720, 420});
  name_ = new QLineEdit(this);
  name_->setObjectName("versionName");
  name_->setPlaceholderText(tr("name of this state, such as \"as the client saw it\""));
  name_->setAccessibleName(tr("Name of the version to keep"));
  keep_ = new QPushButton(tr("Keep a version"), this);
  keep_->setObjectName("keepVersion");
  keep_->setEnabled(false);
  list_ = new QListWidget(this);
  list_->setObjectName("versionList");
  list_->setAccessibleName(tr("Kept versions"));
  differences_ = new QPlainTextEdit(this);
  differences_->setObjectName("versionDifferences");
  differences_->setReadOnly(true);
  differences_->setAccessibleName(tr("What has changed since the chosen version"));
  differences_->setPlaceholderText(tr("Choose a version to see what has changed since"));
  back_ = new QPushButton(tr("Go back to it"), this);
  back_->setObjectName("backToVersion");
  back_->setEnabled(false);
  auto* leave = new QPushButton(tr("Close"), this);
  auto* top = new QHBoxLayout;
  top->addWidget(name_, 1);
  top->addWidget(keep_);
  auto* middle = new QHBoxLayout;
  middle->addWidget(list_, 2);
  middle->addWidget(differences_, 3);
  auto* bottom = new QHBoxLayout;
  bottom->addWidget(new PlainLabel(tr("Going back is one step; undo takes it back."), this), 1);
  bottom->addWidget(back_);
  bottom->addWidget(leave);
  auto* all = new QVBoxLayout(this);
  all->addLayout(top);
  all->addLayout(middle, 1);
  all->addLayout(bottom);
  connect(name_, &QLineEdit::textChanged, this, [this] { keep_->setEnabled(!name_->text().trimmed().isEmpty()); });
  connect(name_, &QLineEdit::returnPressed, this, &VersionsDialog::keep);
  connect(keep_, &QPushButton::clicked, this, &VersionsDialog::keep);
  connect(back_, &QPushButton::clicked, this, &VersionsDialog::goBack);
  connect(leave, &QPushButton::clicked, this, &QDialog::close);
  connect(list_, &QListWidget::currentRowChanged, this, &VersionsDialog::show);
  connect(session_, &Session::versionsListed, this, [this](const QStringList& names) {
    list_->clear();
    list_->addItems(names);
  });
  connect(session_, &Session::versionRead, this,
          [this](const QString& name, std::shared_ptr<const Document> document) {
            shown_ = std::move(document);
            shownName_ = name;
            QStringList lines;
            for (const std::string& line : differences_in_words(*shown_, session_->document()))
              lines << QString::fromStdString(line);
            differences_->setPlainText(lines.isEmpty() ? tr("Nothing has changed since.") : lines.join('\n'));
            back_->setEnabled(!lines.isEmpty());
          });
  session_->askVersions();
}

void VersionsDialog::show(int row) {
  shown_.reset();
  back_->setEnabled(false);
  differences_->clear();
  if (row >= 0) session_->askVersion(static_cast<std::size_t>(row));
}

void VersionsDialog::keep() {
  const QString name = name_->text().trimmed();
  if (name.isEmpty()) return;
  session_->keepVersion(name);
  name_->clear();
  session_->askVersions();
}

void VersionsDialog::goBack() {
  if (!shown_) return;
  session_->keep(edit_between(session_->document(), *shown_, tr("Back to %1").arg(shownName_).toStdString()));
  show(list_->currentRow());
}

}  // namespace cinnabar
