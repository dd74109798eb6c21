#include "cinnabar/desktop/board/shot_paper.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/board/sketch_pad.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/stage/levels_panel.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/levels/schools.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/field.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

/// A field of several lines that is kept when it is left.
class Notes : public QPlainTextEdit {
 public:
  using QPlainTextEdit::QPlainTextEdit;
  std::function<void()> left;

 protected:
  void focusOutEvent(QFocusEvent* event) override {
    QPlainTextEdit::focusOutEvent(event);
    if (left) left();
  }
};

/// The house rules that the shot in hand follows instead of its set-up's and the project's: a menu of schools.
class OwnRules : public QPushButton {
 public:
  OwnRules(Session* session, QWidget* parent) : QPushButton(parent), session_(session) {
    setObjectName("paper-rules");
    setAccessibleName(QObject::tr("House rules of this shot"));
    setAutoDefault(false);
    auto* menu = new QMenu(this);
    menu->setObjectName("paper-rulesMenu");
    setMenu(menu);
    connect(menu, &QMenu::aboutToShow, this, &OwnRules::fill);
    connect(session_, &Session::changed, this, &OwnRules::tell);
    connect(session_, &Session::shotChanged, this, &OwnRules::tell);
    tell();
  }
  void fill() {
    menu()->clear();
    const Shot* shot = session_->shot();
    if (!shot) return;
    for (const HouseRuleRow& row : house_rule_rows()) {
      if (row.rule == HouseRule::order) continue;  // the order is of all shots
      const auto own = shot->house_rules.find(row.rule);
      const std::string now = own == shot->house_rules.end() ? std::string() : row.names[own->second];
      QMenu* sub = menu()->addMenu(q(question_of(row.rule)));
      const auto offer = [&](const QString& text, const std::string& value) {
        QAction* action = sub->addAction(text, this, [this, key = row.key, value] { keep(key, value); });
        action->setCheckable(true);
        action->setChecked(now == value);
      };
      offer(QObject::tr("as the set-up or the project"), {});
      for (const School& s : schools(row.rule)) offer(q(s.title) + ": " + q(s.reason), s.value);
    }
  }

 private:
  void tell() {
    const Shot* shot = session_->shot();
    setEnabled(shot != nullptr && !session_->readOnly());
    const auto own = shot ? shot->house_rules.size() : 0;
    setText(own == 0 ? QObject::tr("the project's") : QObject::tr("%1 of its own").arg(own));
  }
  void keep(const std::string& key, const std::string& value) {
    if (!session_->shot()) return;
    const std::string rules = "/shots/" + std::to_string(session_->shotIndex()) + "/house_rules";
    Session::Values values;
    if (!value_at(session_->document(), rules)) {
      if (value.empty()) return;
      values.push_back({rules, Json::object()});
    }
    if (value.empty() && !value_at(session_->document(), rules + "/" + key)) return;
    values.push_back({rules + "/" + key, value.empty() ? std::nullopt : std::optional<Json>(value)});
    session_->keep(QObject::tr("House rule of the shot"), values);
  }
  Session* session_;
};

/// Lens, where the camera stands and where each light does, in a line each.
QString placesOf(const Project& project, const Shot& shot, Units units) {
  QStringList lines;
  const auto length = [units](double v) { return q(length_text(v, units)); };
  const auto from = [](const Vec3& v) {
    const double bearing = degrees(std::atan2(v.x, v.z));
    const QString turn = QString::number(std::lround(std::abs(bearing))) + QChar(0x00b0);
    return std::abs(bearing) < 0.5 ? QObject::tr("ahead")
           : bearing > 0           ? QObject::tr("%1 right").arg(turn)
                                   : QObject::tr("%1 left").arg(turn);
  };
  if (shot.camera)
    lines << QObject::tr("Lens %1 mm, f/%2; camera %3 away, %4, %5 up")
                 .arg(q(number_text(shot.camera->focal * 1e3, 4)), q(number_text(shot.camera->f_number, 3)),
                      length(std::hypot(shot.camera->place.x, shot.camera->place.z)), from(shot.camera->place),
                      length(shot.camera->place.y));
  if (const Setup* setup = by_id(project.setups, shot.setup)) {
    QStringList lights;
    for (const Light& l : setup->lights)
      if (l.on && !l.window) lights << QString("%1 %2, %3").arg(q(l.name), from(l.place), length(l.place.y));
    if (!lights.isEmpty()) lines << lights.join("; ");
  }
  return lines.join('\n');
}

}  // namespace

QLineEdit* ShotPaper::line(const char* id, const QString& label) {
  auto* edit = new QLineEdit(this);
  edit->setObjectName(id);
  edit->setAccessibleName(label);
  return edit;
}
QComboBox* ShotPaper::choice(const char* id, const QString& label) {
  auto* box = new QComboBox(this);
  box->setObjectName(id);
  box->setAccessibleName(label);
  return box;
}

ShotPaper::ShotPaper(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session) {
  setObjectName("shotPaper");
  features_ = new QVBoxLayout;
  features_->setSpacing(2);
  spot_ = new QVBoxLayout;
  spot_->setSpacing(0);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(12, 32, 12, 8);
  all->setSpacing(6);
  all->addLayout(shotForm());
  all->addLayout(features_);
  seen_ = new Vial(this);
  seen_->setObjectName("paper-seen");
  seen_->setCheckable(false);
  seen_->hide();
  all->addWidget(seen_);
  auto* sketch = new SketchPad(session, foresight, this);
  sketch->setFixedSize(192, 108);
  all->addWidget(sketch);
  all->addStretch(1);
  auto* heading = new PlainLabel(tr("The whole spot"), this);
  heading->setFont(textFont(12, true));
  all->addWidget(heading);
  all->addLayout(spotRow());
  all->addLayout(spot_);
  connectWords();
  connectLength();
  connect(session_, &Session::changed, this, &ShotPaper::refresh);
  connect(session_, &Session::shotChanged, this, &ShotPaper::refresh);
  connect(foresight, &Foresight::levels, this,
          [this](const std::vector<Level>& levels, bool) { showSpot(levels), showSeen(levels); });
  connect(seen_, &Vial::clicked, this, [this] { emit session_->message(q(seen_->level().sentence)); });
  const std::vector<Level>& told = foresight->told();
  showSpot(told.empty() ? spot_levels(session_->project()) : told), showSeen(told);
  refresh();
}

/// What the shot in hand is called, how long and large it is, what belongs to it.
QFormLayout* ShotPaper::shotForm() {
  name_ = line("paper-name", tr("Name"));
  length_ = line("paper-length", tr("Length on screen"));
  sound_ = line("paper-sound", tr("Sound"));
  plates_ = line("paper-plates", tr("Plates, parted by semicolons"));
  plates_->setPlaceholderText(tr("none; part several by ;"));
  size_ = choice("paper-size", tr("Size"));
  role_ = choice("paper-role", tr("Part of the spot"));
  setup_ = choice("paper-setup", tr("Set-up"));
  for (const auto& [id, text] : {std::pair{"", tr("not said")}, std::pair{"wide", tr("wide")},
                                 std::pair{"close", tr("close")}, std::pair{"macro", tr("macro")}})
    size_->addItem(text, id);
  for (const auto& [id, text] :
       {std::pair{"", tr("as it looks")}, std::pair{"hero", tr("hero")}, std::pair{"detail", tr("detail")},
        std::pair{"action", tr("action")}, std::pair{"ending", tr("ending")}})
    role_->addItem(text, id);
  auto* notes = new Notes(this);
  notes_ = notes;
  notes_->setObjectName("paper-notes");
  notes_->setAccessibleName(tr("Notes"));
  notes_->setTabChangesFocus(true);
  notes_->setMinimumHeight(34);
  notes_->setMaximumHeight(42);
  notes->left = [this] {
    const Json* json = session_->shot() ? session_->document().find("shots", session_->shot()->id) : nullptr;
    const std::string text = notes_->toPlainText().trimmed().toStdString();
    if (json && text != json->value("notes", "")) keep(tr("Notes of the shot"), "notes", text);
  };
  auto* places = new PlainLabel(this);
  places->setObjectName("paper-places");
  places->setWordWrap(true);
  const auto tell = [this, places] {
    places->setText(session_->shot() ? placesOf(session_->project(), *session_->shot(), session_->units())
                                     : QString());
  };
  connect(session_, &Session::changed, this, tell);
  connect(session_, &Session::shotChanged, this, tell);
  tell();
  auto* form = new QFormLayout;
  form->setContentsMargins(0, 0, 0, 0);
  form->setVerticalSpacing(4);
  form->addRow(tr("Name"), name_);
  form->addRow(tr("Length"), length_);
  form->addRow(tr("Size"), size_);
  form->addRow(tr("Part"), role_);
  form->addRow(tr("Set-up"), setup_);
  form->addRow(tr("Sound"), sound_);
  form->addRow(tr("Plates"), plates_);
  form->addRow(tr("Rules"), new OwnRules(session_, this));
  form->addRow(tr("Places"), places);
  form->addRow(tr("Notes"), notes_);
  return form;
}

/// The spot's length and tempo, typed or tapped.
QHBoxLayout* ShotPaper::spotRow() {
  allowed_ = line("spot-allowed", tr("Length allowed"));
  tempo_ = line("spot-tempo", tr("Beats a minute"));
  auto* tapButton = new WordButton(tr("Tap"), WordButton::Look::chip, this);
  tapButton->setObjectName("spot-tap");
  tapButton->setCheckable(false);
  tapButton->setAccessibleName(tr("Tap the beat four times or more"));
  tapButton->setToolTip(tapButton->accessibleName());
  taps_.start();
  connect(tapButton, &WordButton::pressed, this,
          [this] { tapAt(static_cast<double>(taps_.nsecsElapsed()) / 1e9); });
  auto* row = new QHBoxLayout;
  row->setSpacing(5);
  row->addWidget(new PlainLabel(tr("allowed"), this));
  row->addWidget(allowed_, 1);
  row->addWidget(new PlainLabel(tr("tempo"), this));
  row->addWidget(tempo_, 1);
  row->addWidget(tapButton);
  const auto number = [this](QLineEdit* edit, const char* pointer, const QString& title, const QString& unit,
                             double low, double high) {
    connect(edit, &QLineEdit::editingFinished, this, [=, this] {
      if (!edit->isModified()) return;
      edit->setModified(false);
      QString text = edit->text().trimmed();
      if (text.endsWith(unit)) text.chop(unit.size());
      const auto value = parse_number(text.trimmed().toStdString());
      if (text.trimmed().isEmpty()) {
        if (value_at(session_->document(), pointer)) session_->keep(title, {{pointer, std::nullopt}});
      } else if (!value || *value < low || *value > high) {
        emit session_->message(tr("\"%1\" is out of range: give %2 to %3").arg(edit->text()).arg(low).arg(high));
        refresh();
      } else {
        session_->keep(title, {{pointer, *value}});
      }
    });
  };
  number(allowed_, "/project/allowed_time", tr("Length allowed"), "s", 0.1, 3600);
  number(tempo_, "/project/beats_per_minute", tr("Tempo"), "bpm", 20, 400);
  return row;
}

/// Name, sound, plates and what is chosen.
void ShotPaper::connectWords() {
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    const std::string text = name_->text().trimmed().toStdString();
    if (session_->shot() && !text.empty() && text != session_->shot()->name) keep(tr("Shot named"), "name", text);
  });
  connect(sound_, &QLineEdit::editingFinished, this, [this] {
    if (sound_->isModified()) keep(tr("Sound cue"), "sound", sound_->text().trimmed().toStdString());
    sound_->setModified(false);
  });
  connect(plates_, &QLineEdit::editingFinished, this, [this] {
    if (!plates_->isModified()) return;
    plates_->setModified(false);
    Json list = Json::array();
    for (const std::string& plate : split(plates_->text().toStdString(), ';'))
      if (!plate.empty()) list.push_back(plate);
    keep(tr("Plates"), "plates", list.empty() ? std::nullopt : std::optional<Json>(list));
  });
  const auto chosen = [this](QComboBox* box, const char* member, const QString& title) {
    connect(box, &QComboBox::activated, this, [this, box, member, title] {
      const std::string value = box->currentData().toString().toStdString();
      keep(title, member, value.empty() ? std::nullopt : std::optional<Json>(value));
    });
  };
  chosen(size_, "size", tr("Size of the shot"));
  chosen(role_, "role", tr("Part of the spot"));
  chosen(setup_, "setup", tr("Set-up of the shot"));
}

/// The length, in seconds or frames.
void ShotPaper::connectLength() {
  connect(length_, &QLineEdit::editingFinished, this, [this] {
    if (!session_->shot() || !length_->isModified()) return;
    length_->setModified(false);
    QString text = length_->text().trimmed();
    const bool frames = text.endsWith(tr("frames"));
    for (const QString& unit : {tr("frames"), QString("s")})
      if (text.endsWith(unit)) text.chop(unit.size());
    const auto value = parse_number(text.trimmed().toStdString());
    if (!value || *value <= 0) {
      emit session_->message(
          tr("\"%1\" is no length; type seconds (\"2.5 s\") or frames (\"60 frames\")").arg(length_->text()));
      return refresh();
    }
    const double seconds = frames ? *value / session_->project().timeline_rate : *value;
    keep(tr("Shot %1 made %2 s long").arg(session_->shotIndex() + 1).arg(q(fixed_text(seconds, 2))), "screen_time",
         std::round(seconds * 1e6) / 1e6);
  });
}

void ShotPaper::tapAt(double seconds) {
  if (!tapped_.empty() && seconds - tapped_.back() > 2.5) tapped_.clear();  // a new row of beats
  tapped_.push_back(seconds);
  if (tapped_.size() < 4) return;
  const double beat = (tapped_.back() - tapped_.front()) / static_cast<double>(tapped_.size() - 1);
  if (beat <= 60.0 / 400 || beat >= 60.0 / 20) return;
  const double tempo = std::round(600.0 / beat) / 10.0;
  session_->keep(tr("Tempo tapped: %1").arg(tempo), {{"/project/beats_per_minute", tempo}});
}

void ShotPaper::keep(const QString& title, const char* member, const std::optional<Json>& value) {
  if (!session_->shot()) return;
  const std::string pointer = "/shots/" + std::to_string(session_->shotIndex()) + "/" + member;
  if (!value && !value_at(session_->document(), pointer)) return;
  session_->keep(title, {{pointer, value}});
}

void ShotPaper::refresh() {
  const Shot* shot = session_->shot();
  const Json* json = shot ? session_->document().find("shots", shot->id) : nullptr;
  for (QWidget* w : {static_cast<QWidget*>(name_), static_cast<QWidget*>(length_), static_cast<QWidget*>(sound_),
                     static_cast<QWidget*>(size_), static_cast<QWidget*>(role_), static_cast<QWidget*>(setup_),
                     static_cast<QWidget*>(notes_), static_cast<QWidget*>(plates_)})
    w->setEnabled(shot != nullptr);
  // What is being typed is left to the hand.
  const auto put = [](QLineEdit* edit, const QString& text) {
    if (!edit->hasFocus() || !edit->isModified()) edit->setText(text);
  };
  put(name_, shot ? q(shot->name) : QString());
  put(length_, shot ? tr("%1 s").arg(q(number_text(shot->screen_time, 6))) : QString());
  put(sound_, json ? q(json->value("sound", "")) : QString());
  QStringList plates;
  for (const std::string& plate : shot ? shot->plates : std::vector<std::string>{}) plates << q(plate);
  put(plates_, plates.join("; "));
  const Project& project = session_->project();
  put(allowed_, project.allowed_time ? tr("%1 s").arg(q(number_text(*project.allowed_time, 6))) : QString());
  put(tempo_, project.beats_per_minute ? q(number_text(*project.beats_per_minute, 5)) : QString());
  if (!notes_->hasFocus()) notes_->setPlainText(json ? q(json->value("notes", "")) : QString());
  size_->setCurrentIndex(shot ? std::max(0, size_->findData(nameOf(size_names(), shot->size))) : 0);
  role_->setCurrentIndex(shot ? std::max(0, role_->findData(nameOf(role_names(), shot->role))) : 0);
  setup_->clear();
  for (const auto& s : session_->project().setups)
    setup_->addItem(tr("%1, %2").arg(q(s->id), q(s->name)), q(s->id));
  setup_->setCurrentIndex(shot ? setup_->findData(q(shot->setup)) : -1);
  QStringList names;
  for (const auto& product : session_->project().products)
    for (const Feature& f : product->features)
      names << q(product->id + "/" + f.id + "\n" + (f.name.empty() ? f.id : f.name));
  if (names != shownFeatures_) {
    shownFeatures_ = names;
    while (QLayoutItem* item = features_->takeAt(0)) {
      delete item->widget();
      delete item;
    }
    for (const QString& both : names) {
      const QString id = both.section('\n', 0, 0);
      auto* box = new QCheckBox(tr("shows %1").arg(both.section('\n', 1)), this);
      box->setObjectName("feature-" + id);
      features_->addWidget(box);
      connect(box, &QCheckBox::clicked, this, [this, id](bool on) {
        if (!session_->shot()) return;
        Json list = Json::array();
        for (const std::string& f : session_->shot()->features)
          if (q(f) != id) list.push_back(f);
        if (on) list.push_back(id.toStdString());
        const std::string needs = "/shots/" + std::to_string(session_->shotIndex()) + "/needs";
        Session::Values values;
        if (!value_at(session_->document(), needs)) values.push_back({needs, Json::object()});
        values.push_back({needs + "/features", list});
        session_->keep(on ? tr("Feature promised in the shot") : tr("Feature promised no more"), values);
      });
    }
  }
  for (QCheckBox* box : findChildren<QCheckBox*>()) {
    const std::string id = box->objectName().mid(8).toStdString();
    box->setChecked(shot && std::find(shot->features.begin(), shot->features.end(), id) != shot->features.end());
    box->setEnabled(shot != nullptr);
  }
  if (!shot || shot->features.empty()) seen_->hide();
  update();
}

void ShotPaper::showSpot(const std::vector<Level>& levels) {
  std::vector<Level> own;
  for (const Level& l : levels)
    if (is_of_spot(l.id)) own.push_back(l);
  if (own.size() < vials_.size() && !levels.empty() && own.empty()) return;
  while (vials_.size() > own.size()) {
    delete vials_.back();
    vials_.pop_back();
  }
  while (vials_.size() < own.size()) {
    vials_.push_back(new Vial(this));
    vials_.back()->setCheckable(false);
    connect(vials_.back(), &Vial::clicked, this,
            [this, vial = vials_.back()] { emit session_->message(q(vial->level().sentence)); });
    spot_->addWidget(vials_.back());
  }
  for (std::size_t i = 0; i < own.size(); ++i) {
    vials_[i]->show(own[i], session_->units());
    vials_[i]->setObjectName("board-" + q(own[i].id));
  }
}

/// The level of the shot in hand that its promised features have, under their ticks.
void ShotPaper::showSeen(const std::vector<Level>& levels) {
  const auto found =
      std::find_if(levels.begin(), levels.end(), [](const Level& l) { return l.id == "frame.feature"; });
  const bool promised = session_->shot() && !session_->shot()->features.empty();
  seen_->setVisible(promised && found != levels.end());
  if (found != levels.end()) seen_->show(*found, session_->units());
}

void ShotPaper::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
  const Shot* shot = session_->shot();
  drawText(p, {12, 9, width() - 24.0, 18}, Qt::AlignLeft | Qt::AlignVCenter,
           shot ? tr("Shot %1").arg(session_->shotIndex() + 1) : tr("No shot"), textFont(13, true), theme().ink);
}

}  // namespace cinnabar
