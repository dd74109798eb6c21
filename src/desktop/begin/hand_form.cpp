#include "cinnabar/desktop/begin/hand_form.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/begin/form_tile.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/levels/moods.h"
#include "cinnabar/project/making/starter_kits.h"

namespace cinnabar {
namespace {

constexpr std::size_t most_seen = 3;

QWidget* labelled(const QString& label, QWidget* field, QWidget* parent) {
  auto* both = new QWidget(parent);
  auto* column = new QVBoxLayout(both);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  auto* name = new PlainLabel(label, both);
  name->setProperty("quiet", true);
  column->addWidget(name);
  column->addWidget(field);
  return both;
}

QString lengthOf(double metres) { return q(length_text(metres)); }

}  // namespace

HandForm::HandForm(QWidget* parent) : QWidget(parent) {
  setObjectName("inHand");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, 46, 14, 12);
  all->setSpacing(9);
  all->addWidget(forms(), 1);
  all->addWidget(measures());
  all->addWidget(mustBeSeen());
  all->addWidget(kit());
  all->addWidget(where());
  all->addWidget(mood());
  formChosen();
}

QWidget* HandForm::forms() {
  auto* both = new QWidget(this);
  auto* column = new QVBoxLayout(both);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  auto* grid = new QGridLayout;
  grid->setSpacing(2);
  forms_ = new QButtonGroup(this);
  constexpr int across = 8;
  int n = 0;
  for (const ProductKind& kind : product_kinds()) {
    SpotInHand usual;
    usual.kind = kind.id;
    const auto product = product_in_hand(usual);
    auto* tile = new FormTile(tr(kind.name.c_str()).toLower(),
                              product ? front_outlines(*product) : std::vector<QPolygonF>(), both);
    tile->setObjectName("form-" + q(kind.id));
    tile->setProperty("id", q(kind.id));
    forms_->addButton(tile, n);
    grid->addWidget(tile, n / across, n % across);
    tile->setChecked(kind.id == "jar");
    ++n;
  }
  column->addLayout(grid, 1);
  meshButton_ = new WordButton(tr("or take in a mesh (OBJ, glTF, STL)"), WordButton::Look::plain, both);
  meshButton_->setObjectName("beginMesh");
  meshButton_->setCheckable(false);
  auto* row = new QHBoxLayout;
  row->addWidget(meshButton_);
  row->addStretch(1);
  column->addLayout(row);
  connect(forms_, &QButtonGroup::idClicked, this, [this] {
    setMesh({});
    formChosen();
    emit changed();
  });
  connect(meshButton_, &WordButton::clicked, this, [this] {
    if (!mesh_.isEmpty()) {
      setMesh({});
      return void(emit changed());
    }
    auto* dialog = fileDialog(this, tr("A mesh of the product"), tr("Meshes (*.obj *.gltf *.glb *.stl)"));
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& file) {
      setMesh(file);
      emit changed();
    });
    dialog->open();
  });
  return both;
}

void HandForm::setMesh(const QString& file) {
  mesh_ = file;
  meshButton_->setText(file.isEmpty() ? tr("or take in a mesh (OBJ, glTF, STL)")
                                      : tr("%1, made as high as below; off").arg(QFileInfo(file).fileName()));
  meshButton_->updateGeometry();
  for (QAbstractButton* tile : forms_->buttons()) tile->setEnabled(true);
  width_->setEnabled(file.isEmpty());
  madeOf_->setEnabled(file.isEmpty());
}

QLineEdit* HandForm::field(const QString& label, const char* id, const QString& text) {
  auto* edit = new QLineEdit(text, this);
  edit->setObjectName(id);
  edit->setAccessibleName(label);
  connect(edit, &QLineEdit::textEdited, this, &HandForm::changed);
  return edit;
}

WordButton* HandForm::chip(QButtonGroup* group, const QString& text, const QString& id) {
  auto* b = new WordButton(text, WordButton::Look::chip, this);
  b->setObjectName(id);
  b->setCheckable(true);
  group->addButton(b);
  connect(b, &WordButton::clicked, this, &HandForm::changed);
  return b;
}

QWidget* HandForm::measures() {
  auto* row = new QWidget(this);
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(12);
  height_ = field(tr("Height"), "beginHeight", {});
  width_ = field(tr("Width"), "beginWidth", {});
  mass_ = field(tr("Mass, full"), "beginMass", {});
  mass_->setPlaceholderText(tr("estimated"));
  madeOf_ = new QComboBox(this);
  madeOf_->setObjectName("beginMadeOf");
  madeOf_->setAccessibleName(tr("Made of"));
  connect(madeOf_, &QComboBox::activated, this, &HandForm::changed);
  line->addWidget(labelled(tr("Height"), height_, row), 3);
  line->addWidget(labelled(tr("Width"), width_, row), 3);
  line->addWidget(labelled(tr("Mass, full"), mass_, row), 3);
  line->addWidget(labelled(tr("Made of"), madeOf_, row), 5);
  return row;
}

QWidget* HandForm::mustBeSeen() {
  auto* box = new QWidget(this);
  seen_ = new QVBoxLayout;
  seen_->setSpacing(4);
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  auto* name = new PlainLabel(tr("What must be read on it, and how high its letters are"), box);
  name->setProperty("quiet", true);
  column->addWidget(name);
  column->addLayout(seen_);
  addSeen(tr("the name"), lengthOf(0.008));
  return box;
}

void HandForm::addSeen(const QString& words, const QString& height) {
  auto* row = new QHBoxLayout;
  auto* what = field(tr("What must be read"), "", words);
  what->setObjectName(QString("beginSeen%1").arg(seenRows_.size() + 1));
  auto* high = field(tr("Height of its letters"), "", height);
  high->setObjectName(QString("beginLetters%1").arg(seenRows_.size() + 1));
  high->setMaximumWidth(90);
  row->addWidget(what, 1);
  row->addWidget(high);
  if (!moreSeen_) {
    moreSeen_ = new WordButton(tr("+ more"), WordButton::Look::chip, this);
    moreSeen_->setObjectName("beginMore");
    moreSeen_->setCheckable(false);
    moreSeen_->setAccessibleName(tr("One more thing that must be read"));
    connect(moreSeen_, &WordButton::clicked, this, [this] {
      addSeen({}, lengthOf(0.004));
      seenRows_.back().first->setFocus();
    });
    row->addWidget(moreSeen_);
  } else {
    row->addSpacing(moreSeen_->sizeHint().width() + 6);
  }
  seen_->addLayout(row);
  seenRows_.emplace_back(what, high);
  if (seenRows_.size() > 1) setTabOrder(seenRows_[seenRows_.size() - 2].second, what);
  setTabOrder(what, high);
  moreSeen_->setEnabled(seenRows_.size() < most_seen);
}

QWidget* HandForm::kit() {
  auto* row = new QWidget(this);
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(8);
  kits_ = new QButtonGroup(this);
  for (const StarterKit& k : starter_kits()) {
    auto* b = chip(kits_, q(k.name).toLower(), "kit-" + q(k.id));
    b->setProperty("id", q(k.id));
    b->setToolTip(plainTip(q(k.what)));
    b->setChecked(k.id == "three-lights");
    line->addWidget(b);
  }
  line->addStretch(1);
  return labelled(tr("What is there"), row, this);
}

QWidget* HandForm::where() {
  auto* row = new QWidget(this);
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(12);
  auto* chips = new QWidget(this);
  auto* of = new QHBoxLayout(chips);
  of->setContentsMargins(0, 0, 0, 0);
  of->setSpacing(6);
  shapes_ = new QButtonGroup(this);
  shapes_->setExclusive(false);
  for (const std::string& shape : frame_shapes()) {
    auto* b = chip(shapes_, q(shape), "shape-" + QString(q(shape)).replace(':', '-'));
    b->setChecked(shape == "16:9");
    of->addWidget(b);
  }
  length_ = field(tr("How long"), "beginLength", "20 s");
  tempo_ = field(tr("Tempo, beats a minute"), "beginTempo", {});
  tempo_->setPlaceholderText(tr("none"));
  rate_ = new QComboBox(this);
  rate_->setObjectName("beginRate");
  rate_->setAccessibleName(tr("Frames a second"));
  for (const char* rate : {"24", "25", "30", "24000/1001", "30000/1001", "50", "60"}) rate_->addItem(rate, rate);
  connect(rate_, &QComboBox::activated, this, &HandForm::changed);
  line->addWidget(labelled(tr("Where it runs"), chips, row));
  line->addWidget(labelled(tr("How long"), length_, row), 2);
  line->addWidget(labelled(tr("Tempo"), tempo_, row), 2);
  line->addWidget(labelled(tr("Frames a second"), rate_, row), 3);
  return row;
}

QWidget* HandForm::mood() {
  auto* row = new QWidget(this);
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(8);
  auto* name = new PlainLabel(tr("Mood"), row);
  name->setProperty("quiet", true);
  line->addWidget(name);
  moods_ = new QButtonGroup(this);
  moods_->setExclusive(false);  // one or none
  for (const Mood& m : moods()) {
    auto* b = chip(moods_, q(m.word), "mood-" + q(m.word));
    b->setProperty("id", q(m.word));
    b->setToolTip(plainTip(q(mood_says(m))));
    line->addWidget(b);
    connect(b, &WordButton::clicked, this, [this, b] {
      for (QAbstractButton* other : moods_->buttons())
        if (other != b) other->setChecked(false);
    });
  }
  line->addStretch(1);
  return row;
}

void HandForm::formChosen() {
  if (!forms_->checkedButton()) return;
  const std::string kind = forms_->checkedButton()->property("id").toString().toStdString();
  if (const auto high = height_range(kind)) height_->setText(lengthOf(high->usual));
  if (const auto wide = width_range(kind)) width_->setText(lengthOf(wide->usual));
  mass_->clear();
  madeOf_->clear();
  for (const MadeOf& m : made_of_choices(kind)) madeOf_->addItem(q(m.name), q(m.id));
}

Expected<SpotInHand> HandForm::hand() const {
  SpotInHand hand;
  hand.kind = forms_->checkedButton()->property("id").toString().toStdString();
  hand.name = mesh_.isEmpty() ? tr("%1 spot").arg(forms_->checkedButton()->text()).toStdString()
                              : QFileInfo(mesh_).completeBaseName().toStdString();
  hand.name[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(hand.name[0])));
  const auto length = [](const QLineEdit* edit) -> Expected<std::optional<double>> {
    const QString text = edit->text().trimmed();
    if (text.isEmpty()) return std::optional<double>();
    const auto value = parse_length(text.toStdString());
    if (!value)
      return fail(edit->accessibleName().toStdString(), "\"" + text.toStdString() + "\" is no length",
                  "give it as 104 mm or 0.104");
    return std::optional<double>(*value);
  };
  const auto number = [](const QLineEdit* edit, const QString& unit) -> Expected<std::optional<double>> {
    QString text = edit->text().trimmed();
    if (text.endsWith(unit)) text = text.chopped(unit.size()).trimmed();
    if (text.isEmpty()) return std::optional<double>();
    const auto value = parse_number(text.toStdString());
    if (!value)
      return fail(edit->accessibleName().toStdString(), "\"" + text.toStdString() + "\" is no number",
                  "give a number");
    return std::optional<double>(*value);
  };
  const auto high = length(height_), wide = length(width_), mass = number(mass_, "kg"),
             lasts = number(length_, "s"), tempo = number(tempo_, "bpm");
  for (const auto* given : {&high, &wide, &mass, &lasts, &tempo})
    if (!*given) return tl::unexpected(given->error());
  hand.height = *high, hand.width = *wide, hand.mass = *mass, hand.length = *lasts, hand.tempo = *tempo;
  hand.made_of = madeOf_->currentData().toString().toStdString();
  for (const auto& [what, letters] : seenRows_) {
    if (what->text().trimmed().isEmpty()) continue;
    const auto height = length(letters);
    if (!height) return tl::unexpected(height.error());
    hand.seen.emplace_back(what->text().trimmed().toStdString(), height->value_or(0.0));
  }
  if (const auto* kit = kits_->checkedButton()) hand.kits = {kit->property("id").toString().toStdString()};
  hand.rate = rate_->currentData().toString().toStdString();
  for (const QAbstractButton* b : moods_->buttons())
    if (b->isChecked()) hand.mood = b->property("id").toString().toStdString();
  hand.shapes.clear();
  for (const QAbstractButton* b : shapes_->buttons())
    if (b->isChecked()) hand.shapes.push_back(b->text().toStdString());
  return hand;
}

void HandForm::takeFocus() { forms_->checkedButton()->setFocus(); }

void HandForm::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
  drawText(p, {14, 8, width() - 28.0, 20}, Qt::AlignLeft | Qt::AlignVCenter, tr("What are you filming?"),
           textFont(15, true), theme().ink);
  drawText(p, {14, 27, width() - 28.0, 16}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("choose the nearest form; its measures are exact later, on the Brief"), textFont(11), theme().quiet);
}

}  // namespace cinnabar
