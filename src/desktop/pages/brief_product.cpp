// The product in hand on the Brief.
#include <fmt/format.h>

#include <QComboBox>
#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPointer>
#include <QPushButton>
#include <QVBoxLayout>

#include "cinnabar/base/files.h"
#include "cinnabar/base/text.h"
#include "cinnabar/color/picture.h"
#include "cinnabar/desktop/brief/material_sheet.h"
#include "cinnabar/desktop/brief/mesh_sheet.h"
#include "cinnabar/desktop/brief/product_drawing.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/number_grid.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/edits/picture_file.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/making/product_kinds.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/product_colours.h"

namespace cinnabar {
BriefProduct::BriefProduct(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("briefProduct");
  auto* first = chooserRow();
  auto* second = new QHBoxLayout;
  second->addWidget(name_, 1);
  second->addWidget(kind_);
  drawing_ = new ProductDrawing(session, this);
  picture_ = new ProductPicture(session, this);
  auto* look = new QHBoxLayout;
  look->addWidget(drawing_, 5);
  look->addWidget(picture_, 4);
  fields_ = new NumberGrid({.across = 4}, 16, this);
  connect(fields_, &NumberGrid::entered, this, [this](std::size_t at, double v) {
    if (at < specs_.size()) (void)specs_[at].set(v);  // keeps by itself: several values hang together
    refresh();
  });
  connect(fields_, &NumberGrid::refused, session_, &Session::message);
  auto* materials = partsGrid();
  auto* labels = labelRow();
  palette_ = new QLabel(this);
  palette_->setObjectName("briefPalette");
  palette_->setAccessibleName(tr("Palette"));
  advice_ = new PlainLabel(this);
  advice_->setObjectName("briefAdvice");
  advice_->setWordWrap(true);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, 34, 14, 10);
  all->addLayout(first);
  all->addLayout(second);
  all->addLayout(look, 1);
  all->addWidget(fields_);
  all->addLayout(materials);
  all->addLayout(labels);
  all->addWidget(palette_);
  all->addWidget(advice_);

  connectChoices();
  connectLabel();
  connect(session_, &Session::changed, this, &BriefProduct::refresh);
  refresh();
}

/// Which product, its name and kind, and what makes and takes away one.
QHBoxLayout* BriefProduct::chooserRow() {
  products_ = new QComboBox(this);
  products_->setObjectName("briefProducts");
  products_->setAccessibleName(tr("Product"));
  name_ = new QLineEdit(this);
  name_->setObjectName("briefName");
  name_->setAccessibleName(tr("Name of the product"));
  kind_ = new QComboBox(this);
  kind_->setObjectName("briefKind");
  kind_->setAccessibleName(tr("Kind of product"));
  kind_->addItem(tr("own form"), "");
  for (const ProductKind& k : product_kinds()) kind_->addItem(q(k.name), q(k.id));
  auto* addButton = new QPushButton(tr("Add"), this);
  addButton->setObjectName("briefAdd");
  auto* menu = new QMenu(addButton);
  for (const ProductKind& k : product_kinds()) menu->addAction(q(k.name), this, [this, id = k.id] { add(id); });
  menu->addSeparator();
  menu->addAction(tr("From a mesh: OBJ, glTF, STL"), this, &BriefProduct::chooseMesh);
  addButton->setMenu(menu);
  auto* removeButton = new QPushButton(tr("Take away"), this);
  removeButton->setObjectName("briefRemove");
  connect(removeButton, &QPushButton::clicked, this, &BriefProduct::remove);
  auto* first = new QHBoxLayout;
  first->addWidget(products_, 1);
  first->addWidget(addButton);
  first->addWidget(removeButton);
  return first;
}

/// The parts, and what each is of; as many as the largest product so far has.
QGridLayout* BriefProduct::partsGrid() {
  materialsGrid_ = new QGridLayout;
  for (const int c : {1, 3}) materialsGrid_->setColumnStretch(c, 1);
  return materialsGrid_;
}
void BriefProduct::addPart() {
  const auto i = static_cast<int>(parts_.size());
  auto* label = new PlainLabel(this);
  auto* box = new QComboBox(this);
  box->setObjectName(QString("briefMaterial%1").arg(i));
  for (int k = 0; k <= static_cast<int>(MaterialKind::cloth); ++k)
    box->addItem(material_name(static_cast<MaterialKind>(k)));
  materialsGrid_->addWidget(label, i / 2, 2 * (i % 2));
  materialsGrid_->addWidget(box, i / 2, 2 * (i % 2) + 1);
  setTabOrder(parts_.empty() ? static_cast<QWidget*>(fields_) : parts_.back().second, box);
  parts_.emplace_back(label, box);
  connect(box, &QComboBox::activated, this, [this, at = static_cast<std::size_t>(i), box] {
    const Json* product = json();
    if (!product || at >= (*product)["parts"].size()) return;
    const Json& part = (*product)["parts"][at];
    Json material = part.value("material", Json::object());
    if (material.value("kind", "matte") == box->currentText().toStdString()) return;
    material["kind"] = box->currentText().toStdString();  // its colour and whatever else it says stay
    session_->keep(tr("%1: %2").arg(parts_[at].first->text(), box->currentText()),
                   {{fmt::format("{}/parts/{}/material", path(), at), material}});
  });
}

QHBoxLayout* BriefProduct::labelRow() {
  label_ = new WordButton(tr("label"), WordButton::Look::chip, this);
  label_->setObjectName("briefLabel");
  label_->setCheckable(true);
  labelPicture_ = new WordButton(tr("Its picture"), WordButton::Look::plain, this);
  labelPicture_->setAccessibleName(tr("Picture of the label"));
  labelPicture_->setObjectName("briefLabelPicture");
  labelFoil_ = new WordButton(tr("Its foil"), WordButton::Look::plain, this);
  labelFoil_->setObjectName("briefLabelFoil");
  labelFoil_->setAccessibleName(tr("Foil of the label"));
  labelFoil_->setToolTip(tr("A picture that is bright where foil is stamped on"));
  materials_ = new WordButton(tr("Materials"), WordButton::Look::plain, this);
  materials_->setObjectName("briefMaterials");
  swatches_ = new Swatches(this);
  connect(materials_, &WordButton::clicked, this, [this] {
    if (json()) (new MaterialSheet(session_, swatches_, index_, 0, this))->open();
  });
  auto* labels = new QHBoxLayout;
  labels->addWidget(materials_);
  labels->addWidget(label_);
  labels->addWidget(labelPicture_);
  labels->addWidget(labelFoil_);
  labels->addStretch(1);
  return labels;
}

void BriefProduct::connectChoices() {
  connect(products_, &QComboBox::activated, this,
          [this](int i) { choose(static_cast<std::size_t>(std::max(0, i))); });
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    const std::string text = name_->text().trimmed().toStdString();
    const Json* product = json();
    if (product && !text.empty() && text != product->value("name", ""))
      session_->keep(tr("Product named %1").arg(q(text)), {{path() + "/name", text}});
  });
  connect(kind_, &QComboBox::activated, this, [this] {
    const std::string id = kind_->currentData().toString().toStdString();
    if (!id.empty()) rebuild(id, {}, tr("Built as a %1").arg(kind_->currentText().toLower()));
    refresh();
  });
}

void BriefProduct::connectLabel() {
  connect(label_, &WordButton::clicked, this, [this](bool on) {
    if (!json() || session_->project().products[index_]->parts.empty()) return;
    if (!on) return void(session_->keep(tr("Label taken off"), {{path() + "/label", std::nullopt}}));
    Product holder;
    holder.parts = {session_->project().products[index_]->parts[0]};
    const auto [low, high] = height_span(holder);
    session_->keep(tr("Label put on"),
                   {{path() + "/label", Json{{"part", holder.parts[0].id},
                                             {"bearing_deg", 0},
                                             {"arc_deg", 100},
                                             {"low", low + 0.25 * (high - low)},
                                             {"high", low + 0.7 * (high - low)},
                                             {"stroke", 0.0012},
                                             {"material", {{"kind", "paper"}, {"colour", {0.8, 0.78, 0.72}}}}}}});
  });
  const auto asked_for = [this](const QString& title, const char* key) {
    return [this, title, key] {
      auto* dialog = fileDialog(this, title, tr("Pictures (*.png *.jpg *.jpeg *.svg)"));
      connect(dialog, &QFileDialog::fileSelected, this,
              [this, key](const QString& path) { readLabel(path, key); });
      dialog->open();
    };
  };
  connect(labelPicture_, &WordButton::clicked, this, asked_for(tr("Picture of the label"), "picture"));
  connect(labelFoil_, &WordButton::clicked, this, asked_for(tr("Foil of the label"), "foil"));
}

std::string BriefProduct::path() const { return fmt::format("/products/{}", index_); }
const Json* BriefProduct::json() const {
  const auto& list = session_->document().list("products");
  return index_ < list.size() ? list[index_].get() : nullptr;
}

void BriefProduct::chooseMesh() {
  auto* dialog = fileDialog(this, tr("Mesh of the product"), tr("Meshes (*.obj *.gltf *.glb *.stl)"));
  connect(dialog, &QFileDialog::fileSelected, this, &BriefProduct::readMesh);
  dialog->open();
}
void BriefProduct::readMesh(const QString& file) {
  auto* sheet = new MeshSheet(session_, &reader_, file, this);
  connect(sheet, &MeshSheet::added, this, &BriefProduct::choose);
  sheet->open();
}

void BriefProduct::choose(std::size_t index) {
  index_ = index;
  refresh();
  emit productChosen();
}

void BriefProduct::add(const std::string& kind) {
  Document next = session_->document();
  const Json product = new_product(next, kind);
  next.lists["products"].push_back(std::make_shared<const Json>(product));
  const std::size_t at = next.lists["products"].size() - 1;
  if (session_->keep(
          edit_between(session_->document(), next, tr("%1 added").arg(q(product["name"])).toStdString())))
    choose(at);
}

void BriefProduct::remove() {
  const Json* product = json();
  if (!product) return;
  Document next = session_->document();
  next.lists["products"].erase(next.lists["products"].begin() + static_cast<std::ptrdiff_t>(index_));
  const QString name = q(product->value("name", ""));
  const Edit edit = edit_between(session_->document(), next, tr("%1 taken away").arg(name).toStdString());
  if (const auto faults = validate(next, edit); !faults.empty())
    return void(emit session_->message(tr("%1 stays: it is used (%2)").arg(name, q(faults.front().path))));
  if (session_->keep(edit)) choose(0);
}

void BriefProduct::rebuild(const std::string& kind, const std::map<std::string, double>& measures,
                           const QString& title) {
  const Json* product = json();
  if (!product) return;
  const auto built = built_product(*product, kind, measures);
  if (!built) return void(emit session_->message(q(built.error().message + "; " + built.error().mend)));
  Document next = session_->document();
  next.lists["products"][index_] = std::make_shared<const Json>(*built);
  session_->keep(edit_between(session_->document(), next, title.toStdString()));
}

void BriefProduct::refresh() {
  if (!isVisible()) return;  // brought up to date when it is shown
  const auto& list = session_->document().list("products");
  if (index_ >= list.size()) index_ = 0;
  products_->clear();
  for (const JsonPtr& p : list) products_->addItem(q(p->value("name", p->value("id", ""))));
  products_->setCurrentIndex(list.empty() ? -1 : static_cast<int>(index_));
  const Json* product = json();
  for (QWidget* w : std::initializer_list<QWidget*>{name_, kind_, drawing_, picture_, label_})
    w->setVisible(product);
  specs_.clear();
  const Units units = session_->units();
  if (product) {
    if (!name_->hasFocus() || !name_->isModified()) name_->setText(q(product->value("name", "")));
    const std::string kind = product->contains("built") ? (*product)["built"].value("kind", "") : "";
    kind_->setCurrentIndex(std::max(0, kind_->findData(q(kind))));
    const auto length = [units](double v) { return q(length_text(v, units)); };
    const auto typed = [units](const QString& t) { return parse_length(t.toStdString(), units); };
    if (const ProductKind* known = product_kind(kind))
      for (const Dimension& d : known->dimensions) {
        HandField f;
        f.spec = {q(d.name), "measure_" + q(d.key), measure_of(*product, d), d.is_length ? 0.001 : 0.05, {}, {}};
        if (d.is_length)
          f.spec.text = length, f.spec.parse = typed;
        else
          f.spec.text = [](double v) { return q(fixed_text(100 * v, 0)) + " %"; },
          f.spec.parse = numberTyped("%", 0.01);
        f.set = [this, kind, key = d.key, name = q(d.name), text = f.spec.text](double v) -> Session::Values {
          rebuild(kind, {{key, v}}, QString("%1 %2").arg(name, text(v)));
          return {};
        };
        specs_.push_back(f);
      }
    const auto member = [&](const QString& id, const QString& label, const std::string& key, double value,
                            double step, auto text, auto parse) {
      HandField f;
      f.spec = {label, id, value, step, text, parse};
      f.set = [this, key, label, text](double v) -> Session::Values {
        session_->keep(QString("%1 %2").arg(label, text(v)), {{path() + "/" + key, std::round(v * 1e6) / 1e6}});
        return {};
      };
      specs_.push_back(f);
    };
    member(
        "mass", tr("Mass"), "mass", product->value("mass", 0.0), 0.05,
        [](double v) { return q(number_text(v, 4)) + " kg"; }, numberTyped("kg"));
    if (product->contains("label")) {
      const Json& label = (*product)["label"];
      member("label_low", tr("Label from"), "label/low", label.value("low", 0.0), 0.001, length, typed);
      member("label_high", tr("Label to"), "label/high", label.value("high", 0.0), 0.001, length, typed);
      member("label_arc", tr("Label round"), "label/arc_deg", label.value("arc_deg", 90.0), 5,
             numberShown("\u00b0"), numberTyped("\u00b0"));
      member("label_bearing", tr("Label at"), "label/bearing_deg", label.value("bearing_deg", 0.0), 5,
             numberShown("\u00b0"), numberTyped("\u00b0"));
      member("label_stroke", tr("Its strokes"), "label/stroke", label.value("stroke", 0.001), 0.0001, length,
             typed);
    }
    label_->setChecked(product->contains("label"));
  }
  for (WordButton* button : {labelPicture_, labelFoil_}) button->setVisible(product && product->contains("label"));
  materials_->setVisible(product);
  fields_->setNumbers(specsOf(specs_));
  const std::size_t count = product ? (*product)["parts"].size() : 0;
  while (parts_.size() < count) addPart();
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    const bool there = i < count;
    parts_[i].first->setVisible(there), parts_[i].second->setVisible(there);
    if (!there) continue;
    const Json& part = (*product)["parts"][i];
    parts_[i].first->setText(q(part.value("id", "")));
    parts_[i].second->setAccessibleName(tr("Material of %1").arg(q(part.value("id", ""))));
    parts_[i].second->setCurrentText(part.contains("material") ? q(part["material"].value("kind", "matte"))
                                                               : "matte");
  }
  drawing_->show(index_, {});
  picture_->show(index_);
  colours();
  update();
}

/// The palette and what follows from it, on a worker: the label's picture has to be read.
void BriefProduct::colours() {
  const auto& products = session_->project().products;
  if (index_ >= products.size()) {
    palette_->clear();
    advice_->setText(tr("No product yet: add one by its kind."));
    return;
  }
  if (coloured_ == products[index_]) return;
  coloured_ = products[index_];
  const QPointer<BriefProduct> self(this);
  worker_.ask([self, project = session_->project(),
               product = products[index_]](const std::atomic<bool>& cancelled) {
    const auto colours = product_colours(*product);
    const auto palette = palette_of(colours, 5);
    QString swatches, words;
    for (const auto& c : palette)
      swatches += QString("<span style='background:%1; color:%1'>&nbsp;&nbsp;&nbsp;&nbsp;&nbsp;</span>&nbsp;")
                      .arg(q(hex_of(c.linear)));
    if (!palette.empty()) {
      const KeyAdvice key = key_colour(palette);
      const auto backdrops = backdrops_for(palette);
      words = QObject::tr("Key colour %1, %2 apart%3. Stands best before %4 (%5 apart).")
                  .arg(q(key.name), q(fixed_text(key.difference, 0)),
                       key.safe ? QString() : QObject::tr(", under the 40 it takes"), q(backdrops.front().name),
                       q(fixed_text(backdrops.front().difference, 0)));
      if (const std::string gel = gel_for(palette); !gel.empty())
        words += QObject::tr(" A gel across from it: %1.").arg(q(gel));
    }
    if (cancelled) return;
    later(self, [self, swatches, words] {
      self->palette_->setText(swatches.isEmpty() ? QString() : QObject::tr("Palette") + "&nbsp;&nbsp;" + swatches);
      self->advice_->setText(words.isEmpty() ? QObject::tr("It shows no colour of its own.") : words);
    });
  });
}

void BriefProduct::readLabel(const QString& file, const std::string& key) {
  const QPointer<BriefProduct> self(this);
  reader_.ask([self, file, key, at = index_](const std::atomic<bool>& cancelled) {
    const auto read = png_read(file);
    const QString fault = read ? QString() : q(read.error().text());
    const QByteArray bytes = read.value_or(QByteArray());
    if (cancelled) return;
    later(self, [self, at, bytes, fault, key] {
      Session* session = self->session_;
      if (!fault.isEmpty()) return void(emit session->message(fault));
      Document next = session->document();
      auto& list = next.lists["products"];
      if (at >= list.size() || !list[at]->contains("label")) return;
      const std::string stem = (key == "foil" ? "foil-" : "label-") + list[at]->value("id", "product");
      std::string id = stem;
      for (int k = 2; next.blobs.contains(id); ++k) id = stem + "-" + std::to_string(k);
      next.blobs[id] =
          std::make_shared<const Blob>(Blob{Json{{"type", "image/png"}}, {bytes.begin(), bytes.end()}});
      Json product = *list[at];
      product["label"][key] = id;
      list[at] = std::make_shared<const Json>(product);
      session->keep(
          edit_between(session->document(), next,
                       (key == "foil" ? tr("Foil of the label") : tr("Picture of the label")).toStdString()));
    });
  });
}

void BriefProduct::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
  drawText(p, {14, 10, 200, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("The product"), textFont(13, true),
           theme().ink);
}

}  // namespace cinnabar
