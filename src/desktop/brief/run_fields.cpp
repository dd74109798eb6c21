#include "cinnabar/desktop/brief/run_fields.h"

#include <fmt/format.h>

#include <QCoreApplication>
#include <QDate>
#include <algorithm>
#include <cmath>
#include <limits>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

using ToShow = std::function<QString(double)>;
using ToType = std::function<std::optional<double>(const QString&)>;
using ToPut = std::function<Session::Values(double)>;

QString tr(const char* text) { return QCoreApplication::translate("cinnabar::BriefRuns", text); }

constexpr double unsaid = std::numeric_limits<double>::quiet_NaN();

/// One that need not be said: "none", or nothing typed, takes it away.
ToShow or_none(ToShow shown) {
  return [shown](double v) { return std::isnan(v) ? tr("none") : shown(v); };
}
ToType or_none(ToType typed) {
  return [typed](const QString& text) -> std::optional<double> {
    const QString tidy = text.trimmed();
    return tidy.isEmpty() || tidy == tr("none") ? std::optional(unsaid) : typed(text);
  };
}
std::optional<Json> said_of(double v) { return std::isnan(v) ? std::nullopt : std::optional<Json>(v); }
ToPut put_at(const std::string& pointer) {
  return [pointer](double v) -> Session::Values { return {{pointer, said_of(v)}}; };
}
QString plainly(double v) { return q(number_text(v, 6)); }

/// A field and how it is shown and typed.
struct RunRow {
  const char *label, *id;
  double value, step;
  ToShow shown;
  ToType typed;
  ToPut put;
};
HandField field_of(const RunRow& row) {
  const QString label = tr(row.label);
  return {{label, row.id, row.value, row.step, row.shown, row.typed},
          row.put,
          [label, shown = row.shown](double v) { return label + " " + shown(v); }};
}
std::vector<HandField> fields_of(const std::vector<RunRow>& rows) {
  std::vector<HandField> fields;
  for (const RunRow& row : rows) fields.push_back(field_of(row));
  return fields;
}

std::vector<RunRow> word_rows(const Words& words, const std::string& path) {
  const auto part = [&](std::size_t k) -> ToPut {
    return [path, k, area = Json{words.x, words.y, words.width, words.height}](double v) -> Session::Values {
      Json put = area;
      put[k] = std::clamp(v, 0.0, 1.0);
      return {{path + "/words/area", put}};
    };
  };
  const ToShow percent = [](double v) { return q(fixed_text(100 * v, 0)) + " %"; };
  const ToType typed = numberTyped("%", 0.01);
  return {{QT_TR_NOOP("Words from left"), "w_x", words.x, 0.01, percent, typed, part(0)},
          {QT_TR_NOOP("from top"), "w_y", words.y, 0.01, percent, typed, part(1)},
          {QT_TR_NOOP("wide"), "w_width", words.width, 0.01, percent, typed, part(2)},
          {QT_TR_NOOP("high"), "w_height", words.height, 0.01, percent, typed, part(3)},
          {QT_TR_NOOP("in the last"), "w_last", words.last_seconds, 0.5, numberShown("s", 1), numberTyped("s"),
           put_at(path + "/words/last_seconds")}};
}

/// The day as a number of days, so that it steps by one.
RunRow day_row(const std::string& date) {
  const QDate day = QDate::fromString(q(date), Qt::ISODate);
  return {QT_TR_NOOP("Day"),
          "m_date",
          day.isValid() ? static_cast<double>(day.toJulianDay()) : unsaid,
          1,
          or_none(ToShow([](double v) { return QDate::fromJulianDay(std::llround(v)).toString(Qt::ISODate); })),
          or_none(ToType([](const QString& t) -> std::optional<double> {
            const QDate typed = QDate::fromString(t.trimmed(), Qt::ISODate);
            return typed.isValid() ? std::optional(static_cast<double>(typed.toJulianDay())) : std::nullopt;
          })),
          [](double v) -> Session::Values {
            if (std::isnan(v)) return {{"/project/date", std::nullopt}};
            return {{"/project/date", QDate::fromJulianDay(std::llround(v)).toString(Qt::ISODate).toStdString()}};
          }};
}

}  // namespace

std::vector<HandField> deliverableFields(const Session& session, std::size_t index) {
  const Deliverable& d = session.project().deliverables[index];
  const std::string path = fmt::format("/deliverables/{}", index);
  const Json& json = *session.document().list("deliverables")[index];
  const ToType seconds = or_none(ToType(numberTyped("s")));
  const ToShow in_seconds = or_none(ToShow(numberShown("s", 1)));
  std::vector<RunRow> rows{
      {QT_TR_NOOP("Wide"), "d_width", static_cast<double>(d.width), 10, plainly, numberTyped("px"),
       put_at(path + "/width")},
      {QT_TR_NOOP("High"), "d_height", static_cast<double>(d.height), 10, plainly, numberTyped("px"),
       put_at(path + "/height")},
      {QT_TR_NOOP("At least"), "d_shortest", d.shortest.value_or(unsaid), 1, in_seconds, seconds,
       put_at(path + "/shortest")},
      {QT_TR_NOOP("At most"), "d_longest", d.longest.value_or(unsaid), 1, in_seconds, seconds,
       put_at(path + "/longest")},
      {QT_TR_NOOP("Loudness"), "d_loudness", d.loudness.value_or(unsaid), 1,
       or_none(ToShow(numberShown("LUFS", 0))), or_none(ToType(numberTyped("LUFS"))), put_at(path + "/loudness")},
      {QT_TR_NOOP("Rate"), "d_rate", parse_rate(json.value("rate", "")).value_or(unsaid), 1,
       or_none(ToShow(plainly)),
       or_none(ToType([](const QString& t) { return parse_rate(t.trimmed().toStdString()); })),
       [path](double v) -> Session::Values {
         return {{path + "/rate", std::isnan(v) ? std::nullopt : std::optional<Json>(rate_text(v))}};
       }}};
  if (d.words)
    for (RunRow& row : word_rows(*d.words, path)) rows.push_back(std::move(row));
  return fields_of(rows);
}

std::vector<HandField> meansFields(const Session& session) {
  const Project& project = session.project();
  const Means& means = project.means;
  const Json* info = session.document().single("project");
  const bool has = info && info->contains("means");
  const auto mean = [has](const std::string& key) -> ToPut {
    return [key, has](double v) -> Session::Values {
      if (has) return {{"/project/means/" + key, said_of(v)}};
      return std::isnan(v) ? Session::Values{} : Session::Values{{"/project/means", Json{{key, v}}}};
    };
  };
  const auto within = [](const std::string& key, double most) -> ToPut {
    return [key, most](double v) -> Session::Values {
      return {{"/project/" + key, said_of(std::isnan(v) ? v : std::clamp(v, -most, most))}};
    };
  };
  const Units units = session.units();
  const ToShow number = or_none(ToShow(plainly)), degrees = or_none(ToShow(numberShown("\u00b0", 2))),
               length = or_none(ToShow([units](double v) { return q(length_text(v, units)); }));
  const ToType any = or_none(ToType(numberTyped())), in_degrees = or_none(ToType(numberTyped("\u00b0"))),
               metres = or_none(ToType([units](const QString&t) { return parse_length(t.toStdString(), units); }));
  return fields_of(
      {{QT_TR_NOOP("Budget"), "m_budget", means.budget.value_or(unsaid), 10, number, any, mean("budget")},
       {QT_TR_NOOP("Room wide"), "m_width", means.room_width.value_or(unsaid), 0.1, length, metres,
        mean("room_width")},
       {QT_TR_NOOP("deep"), "m_depth", means.room_depth.value_or(unsaid), 0.1, length, metres, mean("room_depth")},
       {QT_TR_NOOP("high"), "m_height", means.room_height.value_or(unsaid), 0.1, length, metres,
        mean("room_height")},
       {QT_TR_NOOP("Circuits"), "m_circuits", static_cast<double>(means.circuits), 1, number, any,
        mean("circuits")},
       {QT_TR_NOOP("People"), "m_hands", static_cast<double>(means.hands), 1, number, any, mean("hands")},
       day_row(project.date),
       {QT_TR_NOOP("North"), "m_latitude", project.latitude.value_or(unsaid), 0.5, degrees, in_degrees,
        within("latitude", 90)},
       {QT_TR_NOOP("East"), "m_longitude", project.longitude.value_or(unsaid), 0.5, degrees, in_degrees,
        within("longitude", 180)}});
}

}  // namespace cinnabar
