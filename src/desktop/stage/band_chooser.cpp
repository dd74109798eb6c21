#include "cinnabar/desktop/stage/band_chooser.h"

#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/levels/schools.h"

namespace cinnabar {
namespace {

QLabel* note(const QString& text, QWidget* parent) {
  auto* label = new PlainLabel(text, parent);
  label->setWordWrap(true);
  label->setStyleSheet(QString("color: %1; font-size: 11px;").arg(theme().quiet.name()));
  return label;
}

/// Where a rule that a shot follows is written: in the shot, in its set-up, or in the project.
std::string place_of_rule(const Session& s, HouseRule rule) {
  if (s.shot() && s.shot()->house_rules.contains(rule))
    return "/shots/" + std::to_string(s.shotIndex()) + "/house_rules";
  if (s.setup() && s.setup()->house_rules.contains(rule))
    return "/setups/" + std::to_string(s.setupIndex()) + "/house_rules";
  return "/house_rules";
}

}  // namespace

BandChooser::BandChooser(Session* session, const Level& level, QWidget* parent)
    : QWidget(parent), session_(session), level_(level) {
  setObjectName("bandChooser");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 2, 0, 2);
  column->setSpacing(4);
  if (const LevelRow* row = level_row(level.id); row && row->rule) addSchools(*row->rule);
  addOwnBounds();
}

void BandChooser::addSchools(HouseRule rule) {
  const Project& project = session_->project();
  const std::string& key = row_of(rule).key;
  const std::string& now =
      row_of(rule).names[session_->shot() ? project.chosen(rule, *session_->shot()) : project.chosen(rule)];
  const std::string place = place_of_rule(*session_, rule);
  const QString whose = place.starts_with("/shots")    ? tr("this shot's rule")
                        : place.starts_with("/setups") ? tr("the set-up's rule")
                                                       : tr("the project's rule");
  layout()->addWidget(note(tr("%1: %2").arg(q(question_of(rule)), whose), this));
  auto* grid = new QGridLayout;
  grid->setSpacing(4);
  int k = 0;
  for (const School& school : schools(rule)) {
    auto* chip = new WordButton(q(school.title), WordButton::Look::chip, this);
    chip->setObjectName("school-" + q(school.value));
    chip->setAccessibleName(tr("House rule: %1, %2").arg(q(school.title), q(school.reason)));
    chip->setToolTip(q(school.reason));
    chip->setChecked(school.value == now);
    grid->addWidget(chip, k / 2, k % 2, Qt::AlignLeft);
    ++k;
    connect(chip, &WordButton::clicked, this, [this, place, key, school] {
      Session::Values values;
      if (!value_at(session_->document(), place)) values.push_back({place, Json::object()});
      values.push_back({place + "/" + key, school.value});
      session_->keep(tr("House rule %1: %2").arg(q(key), q(school.title)), values);
    });
    if (school.value == now) layout()->addWidget(note(q(school.reason), this));
  }
  static_cast<QVBoxLayout*>(layout())->addLayout(grid);
}

void BandChooser::addOwnBounds() {
  const auto own = session_->project().bands.find(level_.id);
  const bool has = own != session_->project().bands.end();
  auto* row = new QHBoxLayout;
  row->setSpacing(8);
  for (const char* which : {"low", "high"}) {
    const bool low = which == std::string("low");
    const std::optional<double> bound = low ? level_.band.low : level_.band.high;
    auto* field = new NumberField(this);
    const double size = std::abs(bound.value_or(level_.value.value_or(1.0)));
    field->setSpec({.name = low ? tr("At least") : tr("At most"),
                    .id = QString("band-%1").arg(which),
                    .value = bound.value_or(0.0),
                    .step = std::max(0.01, std::pow(10.0, std::floor(std::log10(std::max(0.1, size))) - 1)),
                    .text = [bound](double v) { return bound || v != 0.0 ? q(number_text(v, 4)) : tr("none"); },
                    .parse = [](const QString& text) -> std::optional<double> {
                      if (text.trimmed() == tr("none")) return std::nan("");
                      return parse_number(text.trimmed().toStdString());
                    }});
    field->setAccessibleName(low ? tr("Own lower bound") : tr("Own upper bound"));
    connect(field, &NumberField::entered, this,
            [this, which](double v) { keepBound(which, std::isnan(v) ? std::nullopt : std::optional(v)); });
    connect(field, &NumberField::refused, session_, &Session::message);
    row->addWidget(field);
  }
  auto* back = new WordButton(tr("Reset"), WordButton::Look::chip, this);
  back->setObjectName("band-reset");
  back->setCheckable(false);
  back->setEnabled(has);
  back->setAccessibleName(tr("Back to the usual band"));
  row->addWidget(back, 0, Qt::AlignBottom);
  static_cast<QVBoxLayout*>(layout())->addLayout(row);
  connect(back, &WordButton::clicked, this, [this] {
    session_->keep(tr("Band of %1 reset").arg(q(level_.title)), {{"/bands/" + level_.id, std::nullopt}});
  });
  if (!has) return;
  auto* reason = new QLineEdit(this);
  reason->setObjectName("band-reason");
  reason->setAccessibleName(tr("Reason of the project's own band"));
  reason->setPlaceholderText(tr("why this spot wants another band"));
  reason->setText(q(own->second.reason));
  layout()->addWidget(reason);
  connect(reason, &QLineEdit::editingFinished, this, [this, reason] { keepReason(reason->text()); });
}

void BandChooser::keepBound(const char* which, std::optional<double> value) {
  Json band = value_at(session_->document(), "/bands/" + level_.id).value_or(Json::object());
  const auto bound = [](const std::optional<double>& v) { return v ? Json(*v) : Json(nullptr); };
  if (!band.contains("low")) band["low"] = bound(level_.band.low);
  if (!band.contains("high")) band["high"] = bound(level_.band.high);
  band[which] = bound(value);
  Session::Values values;
  if (!session_->document().single("bands")) values.push_back({"/bands", Json::object()});
  values.push_back({"/bands/" + level_.id, band});
  session_->keep(tr("Own band for %1").arg(q(level_.title)), values);
}

void BandChooser::keepReason(const QString& reason) {
  const auto band = value_at(session_->document(), "/bands/" + level_.id);
  if (!band || band->value("reason", "") == reason.toStdString()) return;
  session_->keep(tr("Reason of the band for %1").arg(q(level_.title)),
                 {{"/bands/" + level_.id + "/reason", reason.toStdString()}});
}

}  // namespace cinnabar
