// The thing in hand on the Kit page.
#include <fmt/format.h>

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>
#include <map>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/number_grid.h"
#include "cinnabar/desktop/kit/beam_plot.h"
#include "cinnabar/desktop/pages/kit_page.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
KitThing::KitThing(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("kitThing");
  auto* first = wordsRow();
  buildNumbers();
  beam_ = new BeamPlot(this);
  measured_ = new WordButton(tr("Read a measured light (IES)"), WordButton::Look::plain, this);
  measured_->setObjectName("kitMeasured");
  unmeasured_ = new WordButton(tr("Forget what was measured"), WordButton::Look::plain, this);
  unmeasured_->setObjectName("kitUnmeasured");
  auto* beamRow = new QHBoxLayout;
  beamRow->addWidget(measured_);
  beamRow->addWidget(unmeasured_);
  beamRow->addStretch(1);
  none_ = new PlainLabel(tr("The kit is empty. Add a thing, or begin with a kit."), this);
  none_->setObjectName("kitNone");
  none_->setWordWrap(true);

  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, 14, 14, 10);
  all->addWidget(none_);
  all->addLayout(first);
  noiseName_ = new PlainLabel(tr("Noise, as ISO: electrons"), this);
  auto* noiseRow = new QHBoxLayout;
  noiseRow->addWidget(noiseName_);
  noiseRow->addWidget(noise_, 1);
  all->addLayout(noiseRow);
  all->addSpacing(4);
  all->addWidget(numbers_);
  all->addWidget(modeBox_);
  all->addSpacing(6);
  all->addWidget(beam_, 6);  // what the page has left, it has
  all->addLayout(beamRow);
  all->addStretch(1);

  connectWords();
  connectModes();
  connect(session_, &Session::changed, this, &KitThing::refresh);
  refresh();
}

/// Its name, its kind, and whether it is owned.
QHBoxLayout* KitThing::wordsRow() {
  name_ = new QLineEdit(this);
  name_->setObjectName("kitName");
  name_->setAccessibleName(tr("Name"));
  unit_ = new QLineEdit(this);
  unit_->setObjectName("kitUnit");
  unit_->setAccessibleName(tr("Unit"));
  unit_->setPlaceholderText(tr("unit"));
  unit_->setMaximumWidth(90);
  kind_ = new QComboBox(this);
  kind_->setObjectName("kitKind");
  kind_->setAccessibleName(tr("Kind"));
  noise_ = new QLineEdit(this);
  noise_->setObjectName("kitNoise");
  noise_->setAccessibleName(tr("Measured noise, electrons at each ISO"));
  noise_->setPlaceholderText(tr("measured noise, as 100: 3.1, 800: 1.9"));
  const auto chip = [this](const QString& text, const char* name) {
    auto* b = new WordButton(text, WordButton::Look::chip, this);
    b->setObjectName(name);
    b->setCheckable(true);
    return b;
  };
  owned_ = chip(tr("owned"), "kitOwned");
  hired_ = chip(tr("price by the day"), "kitHired");
  hot_ = chip(tr("burns hot"), "kitHot");
  autofocus_ = chip(tr("autofocus"), "modeAutofocus");
  auto* first = new QHBoxLayout;
  first->addWidget(name_, 1);
  first->addWidget(unit_);
  first->addWidget(kind_);
  first->addWidget(owned_);
  first->addWidget(hired_);
  first->addWidget(hot_);
  return first;
}

/// Its own numbers, and those of a camera's mode in hand.
void KitThing::buildNumbers() {
  const auto entered = [this](std::size_t at, double v) {
    if (at >= specs_.size()) return;
    const auto values = specs_[at].set(v);
    const QString title = specs_[at].title(v);
    if (!session_->keep(title, values)) refresh();
  };
  numbers_ = new NumberGrid({.across = 4}, 12, this);
  connect(numbers_, &NumberGrid::entered, this, entered);
  connect(numbers_, &NumberGrid::refused, session_, &Session::message);

  modeBox_ = new QWidget(this);
  modes_ = new QComboBox(modeBox_);
  modes_->setObjectName("kitModes");
  modes_->setAccessibleName(tr("Mode of the camera"));
  addMode_ = new WordButton(tr("+ mode"), WordButton::Look::plain, modeBox_);
  addMode_->setObjectName("kitAddMode");
  removeMode_ = new WordButton(tr("take it away"), WordButton::Look::plain, modeBox_);
  removeMode_->setObjectName("kitRemoveMode");
  auto* modeRow = new QHBoxLayout;
  modeRow->addWidget(new PlainLabel(tr("Mode"), modeBox_));
  modeRow->addWidget(modes_, 1);
  modeRow->addWidget(autofocus_);
  modeRow->addWidget(addMode_);
  modeRow->addWidget(removeMode_);
  auto* modeAll = new QVBoxLayout(modeBox_);
  modeAll->setContentsMargins(0, 8, 0, 0);
  modeAll->addLayout(modeRow);
  modeNumbers_ = new NumberGrid({.across = 4}, 8, modeBox_);
  connect(modeNumbers_, &NumberGrid::entered, this,
          [this, entered](std::size_t at, double v) { entered(ownCount_ + at, v); });
  connect(modeNumbers_, &NumberGrid::refused, session_, &Session::message);
  modeAll->addWidget(modeNumbers_);
}

void KitThing::connectWords() {
  connect(name_, &QLineEdit::editingFinished, this, [this] { keepText("name", name_->text(), tr("name")); });
  connect(unit_, &QLineEdit::editingFinished, this, [this] { keepText("unit", unit_->text(), tr("unit")); });
  connect(kind_, &QComboBox::activated, this, &KitThing::keepKind);
  connect(noise_, &QLineEdit::editingFinished, this, &KitThing::keepNoise);
  connect(owned_, &WordButton::clicked, this, [this](bool on) { setFlag("/owned", tr("owned"), on); });
  connect(hired_, &WordButton::clicked, this, [this](bool on) { setFlag("/hired", tr("price by the day"), on); });
  connect(hot_, &WordButton::clicked, this, [this](bool on) { setFlag("/hot", tr("burns hot"), on); });
  connect(autofocus_, &WordButton::clicked, this,
          [this](bool on) { setFlag(fmt::format("/modes/{}/autofocus", mode_), tr("autofocus"), on); });
  connect(measured_, &WordButton::clicked, this, &KitThing::measuredWanted);
  connect(unmeasured_, &WordButton::clicked, this, [this] {
    const Json* item = kitItem(session_->document(), place_);
    if (item)
      session_->keep(tr("%1: what was measured forgotten").arg(kitName(*item)), {{path() + "/ies", std::nullopt}});
  });
}

void KitThing::connectModes() {
  connect(modes_, &QComboBox::activated, this, [this](int i) {
    mode_ = static_cast<std::size_t>(std::max(0, i));
    refresh();
  });
  connect(addMode_, &WordButton::clicked, this, [this] {
    const Json* item = kitItem(session_->document(), place_);
    if (!item) return;
    Json modes = item->value("modes", Json::array());
    Json mode =
        modes.empty() ? Json{{"width", 3840}, {"height", 2160}, {"rate", "25"}, {"crop", 1.0}} : modes.back();
    for (int k = 1;; ++k) {
      mode["id"] = "m" + std::to_string(k);
      if (std::none_of(modes.begin(), modes.end(), [&](const Json& m) { return m["id"] == mode["id"]; })) break;
    }
    modes.push_back(mode);
    mode_ = modes.size() - 1;
    session_->keep(tr("%1: a mode added").arg(kitName(*item)), {{path() + "/modes", modes}});
  });
  connect(removeMode_, &WordButton::clicked, this, [this] {
    const Json* item = kitItem(session_->document(), place_);
    if (!item) return;
    session_->keep(tr("%1: a mode taken away").arg(kitName(*item)),
                   {{fmt::format("{}/modes/{}", path(), mode_), std::nullopt}});
  });
}

std::string KitThing::path() const { return fmt::format("/{}/{}", place_.list, place_.index); }

void KitThing::show(const KitPlace& place) {
  if (!(place == place_)) mode_ = 0;
  place_ = place;
  refresh();
}

void KitThing::setFlag(const std::string& pointer, const QString& what, bool on) {
  const Json* item = kitItem(session_->document(), place_);
  if (!item) return;
  if (!session_->keep(on ? tr("%1: %2").arg(kitName(*item), what) : tr("%1: not %2").arg(kitName(*item), what),
                      {{path() + pointer, on}}))
    refresh();
}

void KitThing::keepText(const std::string& key, const QString& text, const QString& what) {
  const Json* item = kitItem(session_->document(), place_);
  const QString tidy = text.trimmed();
  if (!item || q(item->value(key, "")) == tidy || (key == "name" && tidy == kitName(*item))) return;
  if (key == "name" && tidy.isEmpty()) return refresh();
  if (!session_->keep(tr("%1: %2 %3").arg(kitName(*item), what, tidy), {{path() + "/" + key, tidy.toStdString()}}))
    refresh();
}

/// What the chooser of kinds offers: what a support is, the face of a modifier, what a card is of.
QList<std::pair<QString, QString>> KitThing::kindsOf(const std::string& list) {
  if (list == "kit/supports")
    return {{"turntable", tr("turntable")},
            {"slider", tr("slider")},
            {"head", tr("head")},
            {"stand", tr("stand")},
            {"arm", tr("arm")}};
  if (list == "kit/modifiers")
    return {{"rectangle", tr("rectangle, lit evenly")},
            {"disc", tr("disc, lit evenly")},
            {"bare", tr("ball, lit all round")},
            {"dome", tr("dome toward its aim")},
            {"", tr("no face")},
            {"rectangle/cloth", tr("rectangle of cloth")},
            {"disc/cloth", tr("disc of cloth")},
            {"rectangle/beads", tr("rectangle of beads")},
            {"disc/lens", tr("lens before a lamp")},
            {"disc/tube", tr("tube before a lamp")},
            {"disc/gate", tr("gate thrown by a lens")}};
  if (list == "kit/cards") {
    QList<std::pair<QString, QString>> kinds;
    for (const SheetKind& sheet : sheet_kinds()) kinds.emplace_back(q(sheet.id), q(sheet.name));
    return kinds;
  }
  if (list == "kit/surfaces" || list == "kit/backdrops") {
    QList<std::pair<QString, QString>> kinds;
    for (int k = 0; k <= static_cast<int>(MaterialKind::cloth); ++k)
      kinds.emplace_back(material_name(static_cast<MaterialKind>(k)), material_name(static_cast<MaterialKind>(k)));
    return kinds;
  }
  return {};
}
QString KitThing::kindIn(const Json& item) const {
  if (place_.list == "kit/modifiers") {
    const Json front = item.value("front", Json::object());
    const QString kind = q(front.value("kind", ""));
    return q(item.value("shape", "")) + (kind.isEmpty() ? QString() : "/" + kind);
  }
  if (place_.list == "kit/cards") return q(sheet_of(item.value("material", Json())));
  if (place_.list != "kit/supports")
    return item.contains("material") ? q(item["material"].value("kind", "matte")) : "matte";
  return q(item.value("kind", ""));
}

void KitThing::keepKind() {
  const Json* item = kitItem(session_->document(), place_);
  const QString id = kind_->currentData().toString();
  if (!item || id == kindIn(*item)) return;
  if (place_.list == "kit/supports") return keepText("kind", id, tr("kind"));
  Session::Values values;
  if (place_.list == "kit/cards") {
    values = {{path() + "/material", sheet_material(id.toStdString())}};
  } else if (place_.list != "kit/modifiers") {
    Json material = item->value("material", Json::object());
    material["kind"] = id.toStdString();
    values = {{path() + "/material", material}};
  } else {
    // The whole at once: a face without its measures would not be valid.
    Json changed = *item;
    for (const char* key : {"shape", "width", "height", "radius", "front"}) changed.erase(key);
    const double across =
        item->contains("width") ? (*item)["width"].get<double>() : 2 * item->value("radius", 0.3);
    const QString face = id.section('/', 0, 0), front = id.section('/', 1);
    // A lens, a tube and a gate are as wide as a lamp's mouth, not as a cloth.
    const bool narrow = front == "lens" || front == "tube" || front == "gate";
    if (face == "rectangle") changed.update({{"shape", "rectangle"}, {"width", across}, {"height", across}});
    if (face == "disc")
      changed.update({{"shape", "disc"}, {"radius", narrow ? std::min(0.05, across / 2) : across / 2}});
    if (face == "bare" || face == "dome") changed.update({{"shape", face.toStdString()}, {"radius", across / 2}});
    const Names& kinds = front_names();
    const auto chosen = std::find(kinds.begin(), kinds.end(), front.toStdString());
    if (chosen != kinds.end()) changed["front"] = usual_front(static_cast<FrontKind>(chosen - kinds.begin()));
    values = {{path(), changed}};
  }
  if (!session_->keep(tr("%1: %2").arg(kitName(*item), kind_->currentText()), values)) refresh();
}

QString KitThing::noiseText(const Json& item) {
  QStringList rows;
  const Json noise = item.value("measured_noise", Json::array());
  for (const Json& row : noise)
    rows << QString("%1: %2").arg(q(number_text(row[0].get<double>(), 6)),
                                  q(number_text(row[1].get<double>(), 4)));
  return rows.join(", ");
}

/// Pairs "ISO: electrons"; nothing typed takes the measured noise away.
void KitThing::keepNoise() {
  const Json* item = kitItem(session_->document(), place_);
  if (!item || place_.list != "kit/cameras" || noise_->text() == noiseText(*item)) return;
  noise_->setModified(false);
  std::map<double, double> rows;
  for (const QString& pair : noise_->text().split(',', Qt::SkipEmptyParts)) {
    const auto halves = pair.split(':');
    const auto iso = parse_number(halves[0].trimmed().toStdString()),
               noise = halves.size() == 2 ? parse_number(halves[1].trimmed().toStdString()) : std::nullopt;
    if (!iso || !noise) {
      emit session_->message(
          tr("\"%1\" is no measured noise; type pairs as 100: 3.1, 800: 1.9").arg(pair.trimmed()));
      return refresh();
    }
    rows[*iso] = *noise;
  }
  Json list = Json::array();
  for (const auto& [iso, noise] : rows) list.push_back({iso, noise});
  if (!session_->keep(tr("%1: noise measured").arg(kitName(*item)),
                      {{path() + "/measured_noise", list.empty() ? std::nullopt : std::optional<Json>(list)}}))
    refresh();
}

void KitThing::refresh() {
  if (!isVisible()) return;  // brought up to date when it is shown
  const Json* item = kitItem(session_->document(), place_);
  const bool there = item != nullptr, light = there && place_.list == "kit/lights",
             camera = there && place_.list == "kit/cameras";
  none_->setVisible(!there);
  for (QWidget* w : std::initializer_list<QWidget*>{name_, owned_, hired_}) w->setVisible(there);
  unit_->setVisible(there && place_.list == "kit/consumables");
  const auto kinds = there ? kindsOf(place_.list) : QList<std::pair<QString, QString>>{};
  kind_->setVisible(!kinds.isEmpty());
  noise_->setVisible(camera), noiseName_->setVisible(camera);
  hot_->setVisible(light);
  beam_->setVisible(light);
  measured_->setVisible(light);
  unmeasured_->setVisible(light && item->contains("ies"));
  modeBox_->setVisible(camera);
  specs_ = there ? kitFields(*session_, place_, mode_) : std::vector<HandField>{};
  ownCount_ = specs_.size();
  for (std::size_t i = 0; i < specs_.size(); ++i)
    if (specs_[i].spec.id.startsWith("mode_")) {
      ownCount_ = i;
      break;
    }
  const auto specs = specsOf(specs_);
  const auto of_modes = specs.begin() + static_cast<std::ptrdiff_t>(ownCount_);
  numbers_->setNumbers({specs.begin(), of_modes});
  modeNumbers_->setNumbers({of_modes, specs.end()});
  update();
  if (!there) return;
  if (!name_->hasFocus() || !name_->isModified()) name_->setText(kitName(*item));
  if (!unit_->hasFocus() || !unit_->isModified()) unit_->setText(q(item->value("unit", "")));
  kind_->clear();
  for (const auto& [id, text] : kinds) kind_->addItem(text, id);
  kind_->setCurrentIndex(kind_->findData(kindIn(*item)));
  if (camera && (!noise_->hasFocus() || !noise_->isModified())) noise_->setText(noiseText(*item));
  owned_->setChecked(item->value("owned", true));
  hired_->setChecked(item->value("hired", false));
  hot_->setChecked(item->value("hot", false));
  if (camera) {
    const Json modes = item->value("modes", Json::array());
    mode_ = std::min(mode_, modes.empty() ? 0 : modes.size() - 1);
    modes_->clear();
    for (const Json& m : modes)
      modes_->addItem(tr("%1: %2 x %3 at %4")
                          .arg(q(m.value("id", "")))
                          .arg(m.value("width", 0))
                          .arg(m.value("height", 0))
                          .arg(q(m.value("rate", ""))));
    modes_->setCurrentIndex(static_cast<int>(mode_));
    autofocus_->setChecked(mode_ < modes.size() && modes[mode_].value("autofocus", true));
    removeMode_->setEnabled(modes.size() > 1);
  }
  if (light && place_.index < session_->project().light_kits.size())
    beam_->show(session_->project().light_kits[place_.index]->output, session_->units());
}

void KitThing::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
}

}  // namespace cinnabar
