#include "cinnabar/desktop/brief/mesh_sheet.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPointer>
#include <QPushButton>
#include <QVBoxLayout>

#include "cinnabar/base/words.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"

namespace cinnabar {

template <class Work, class Then>
void MeshSheet::beside(Work work, Then then) {
  worker_->ask([host = parent(), self = QPointer(this), work, then](const std::atomic<bool>& cancelled) {
    const auto result = std::make_shared<const decltype(work())>(work());
    if (cancelled) return;
    later(self, [self, result, then] { then(*result); });
  });
}

MeshSheet::MeshSheet(Session* session, Newest* worker, const QString& file, QWidget* host)
    : QDialog(host), session_(session), worker_(worker) {
  beginSheet(this, "meshSheet", tr("Product from a mesh"), {520, 420});
  name_ = new QLineEdit(QFileInfo(file).completeBaseName(), this);
  name_->setObjectName("meshName");
  unit_ = new QComboBox(this);
  unit_->setObjectName("meshUnit");
  for (const LengthUnit& unit : mesh_units()) unit_->addItem(q(in_words(unit.name.c_str())), unit.metres);
  up_ = new QComboBox(this);
  up_->setObjectName("meshUp");
  up_->addItem(tr("Y is up"), false);
  up_->addItem(tr("Z is up"), true);
  height_ = new QLineEdit(this);
  height_->setObjectName("meshHeight");
  height_->setPlaceholderText(tr("with a rule, foot to top"));
  scaled_ = new QCheckBox(tr("make it that high, whatever its unit"), this);
  scaled_->setObjectName("meshScaled");
  size_ = new PlainLabel(tr("Reading %1").arg(QFileInfo(file).fileName()), this);
  size_->setObjectName("meshSize");
  size_->setWordWrap(true);
  remarks_ = new QPlainTextEdit(this);
  remarks_->setObjectName("meshRemarks");
  remarks_->setAccessibleName(tr("What was found in the mesh"));
  remarks_->setReadOnly(true);
  remarks_->setTabChangesFocus(true);
  add_ = new QPushButton(tr("Take it in"), this);
  add_->setObjectName("meshAdd");
  add_->setEnabled(false);
  auto* leave = new QPushButton(tr("Cancel"), this);
  leave->setObjectName("meshCancel");
  leave->setAutoDefault(false);
  auto* form = new QFormLayout;
  form->addRow(tr("Name"), name_);
  form->addRow(tr("Drawn in"), unit_);
  form->addRow(tr("Stands"), up_);
  form->addRow(tr("Measured height"), height_);
  form->addRow(QString(), scaled_);
  auto* row = new QHBoxLayout;
  row->addStretch(1);
  row->addWidget(add_);
  row->addWidget(leave);
  auto* all = new QVBoxLayout(this);
  all->addLayout(form);
  all->addWidget(size_);
  all->addWidget(remarks_, 1);
  all->addLayout(row);
  for (QComboBox* box : {unit_, up_}) connect(box, &QComboBox::activated, this, &MeshSheet::inspect);
  connect(height_, &QLineEdit::textChanged, this, &MeshSheet::inspect);
  connect(scaled_, &QCheckBox::toggled, this, &MeshSheet::inspect);
  connect(add_, &QPushButton::clicked, this, &MeshSheet::add);
  connect(leave, &QPushButton::clicked, this, &QDialog::close);
  read(file);
}

void MeshSheet::read(const QString& file) {
  beside([path = file.toStdString()] { return read_mesh_file(path); },
         [this](const Expected<MeshFile>& read) {
           if (!read) {
             size_->setText(tr("Nothing was taken in."));
             remarks_->setPlainText(q(read.error().text()));
             return;
           }
           mesh_ = std::make_shared<const MeshFile>(*read);
           if (mesh_->in_metres) unit_->setCurrentIndex(unit_->findData(1.0));
           up_->setCurrentIndex(mesh_->z_up ? 1 : 0);
           inspect();
         });
}

/// Nothing where the height cannot be read.
std::optional<MeshChoice> MeshSheet::choice() const {
  MeshChoice choice{unit_->currentData().toDouble(), up_->currentData().toBool(), {}, scaled_->isChecked()};
  const QString typed = height_->text().trimmed();
  if (typed.isEmpty()) return choice;
  choice.height = parse_length(typed.toStdString(), session_->units());
  if (!choice.height || !(*choice.height > 0) || *choice.height > 100) return std::nullopt;
  return choice;
}

void MeshSheet::inspect() {
  add_->setEnabled(false);  // till the choice is checked
  if (!mesh_) return;
  const auto chosen = choice();
  if (!chosen) return size_->setText(tr("\"%1\" is no height; type it as 24 cm or 9.5 in").arg(height_->text()));
  beside([mesh = mesh_, chosen = *chosen, units = session_->units()] { return inspected(*mesh, chosen, units); },
         [this](const MeshReport& report) { tell(report); });
}

void MeshSheet::tell(const MeshReport& report) {
  const Units units = session_->units();
  const auto length = [units](double v) { return q(length_text(v, units)); };
  const auto parts = static_cast<int>(mesh_->groups.size());
  size_->setText(tr("%1 wide, %2 high, %3 deep; %L4 triangles in %5.")
                     .arg(length(report.width), length(report.height), length(report.depth))
                     .arg(mesh_->triangles)
                     .arg(parts == 1 ? tr("one part") : tr("%1 parts").arg(parts)));
  QStringList lines;
  for (const std::string& remark : report.remarks) lines << q(remark);
  if (height_->text().trimmed().isEmpty())
    lines.prepend(tr("Type its measured height: a mesh does not say for certain how large it is."));
  remarks_->setPlainText(lines.join('\n'));
  add_->setEnabled(report.agrees && !height_->text().trimmed().isEmpty() && !session_->readOnly());
}

void MeshSheet::add() {
  const auto chosen = choice();
  if (!chosen || !mesh_) return;
  add_->setEnabled(false);
  beside(
      [mesh = mesh_, chosen = *chosen, document = session_->document(),
       name = name_->text().trimmed().toStdString()] {
        return with_mesh_product(document, *mesh, chosen, name).map([&](const Document& next) {
          const std::string added = next.lists.at("products").back()->value("name", "");
          return std::pair(edit_between(document, next, said("{} added", added)),
                           next.lists.at("products").size() - 1);
        });
      },
      [this](const Expected<std::pair<Edit, std::size_t>>& next) {
        if (!next) return remarks_->setPlainText(q(next.error().text()));
        if (!session_->keep(next->first)) return add_->setEnabled(true);
        emit added(next->second);
        close();
      });
}

}  // namespace cinnabar
