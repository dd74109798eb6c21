#include "cinnabar/desktop/edits/kit_fields.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <span>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/model/field.h"

namespace cinnabar {
namespace {

constexpr double unsaid = std::numeric_limits<double>::quiet_NaN();

/// One number of a kind of thing: where it stands, and how it is shown.
struct PageField {
  std::string key;  ///< "lux/distance" where it stands within
  Kept kept;
  Shown shown;
};
/// Those rows of an entity's fields that stand on its page.
std::vector<PageField> pageFields(const Fields& fields, const std::string& within = {}) {
  std::vector<PageField> list;
  for (const FieldRow& row : fields.rows) {
    if (row.shown) list.push_back({within + row.key, row.kept, *row.shown});
    if (row.kept == Kept::object)
      for (PageField& inner : pageFields(*row.inner, row.key + "/")) list.push_back(std::move(inner));
  }
  return list;
}

const Json* below(const Json& item, const std::string& key) {
  const Json* at = &item;
  for (const std::string& step : split(key, '/')) {
    const auto found = at->find(step);
    if (found == at->end()) return nullptr;
    at = &*found;
  }
  return at;
}
double shownValue(const Json& item, const PageField& f) {
  const Json* found = below(item, f.key);
  if (!found) return f.key == "count" ? Holding{}.count : unsaid;
  if (f.kept == Kept::rate)
    return found->is_string() ? parse_rate(found->get<std::string>()).value_or(unsaid) : unsaid;
  return found->is_number() ? found->get<double>() / f.shown.scale : unsaid;
}
HandField field(const Session& session, const Json& item, const std::string& path, const PageField& f,
                const QString& name, const QString& idPrefix) {
  const Units units = session.units();
  const bool isLength = std::string(f.shown.unit) == "length", isRate = f.kept == Kept::rate;
  const QString unit = isLength ? QString() : QString::fromUtf8(f.shown.unit), label = QObject::tr(f.shown.label);
  const auto shown = isLength
                         ? std::function<QString(double)>([units](double v) { return q(length_text(v, units)); })
                     : isRate || f.key == "stock" || f.key == "price"
                         ? [unit](double v) { return q(number_text(v, 6)) + (unit.isEmpty() ? "" : " " + unit); }
                         : numberShown(unit, f.shown.decimals);
  const auto text = [shown](double v) { return std::isnan(v) ? QObject::tr("not said") : shown(v); };
  const auto typed = isLength ? std::function<std::optional<double>(const QString&)>(
                                    [units](const QString& t) { return parse_length(t.toStdString(), units); })
                     : isRate ? std::function<std::optional<double>(const QString&)>([](const QString& t) {
                         return parse_rate(t.trimmed().remove("/s").toStdString());
                       })
                              : numberTyped(unit);
  HandField out;
  out.spec = {label,
              idPrefix + q(f.key).replace('/', '_'),
              shownValue(item, f),
              f.shown.step,
              text,
              [typed](const QString& t) -> std::optional<double> {
                const QString word = t.trimmed();
                if (word.isEmpty() || word == QObject::tr("none") || word == QObject::tr("not said"))
                  return unsaid;
                return typed(t);
              }};
  const std::string pointer = path + "/" + f.key, key = f.key;
  const bool hasLux = item.contains("lux");
  out.set = [pointer, path, key, isRate, scale = f.shown.scale, hasLux](double v) -> Session::Values {
    if (std::isnan(v)) return {{key.starts_with("lux/") ? path + "/lux" : pointer, std::nullopt}};
    if (isRate) return {{pointer, rate_text(v)}};
    const double kept = std::round(v * scale * 1e7) / 1e7;
    if (key.starts_with("lux/") && !hasLux)  // both are needed: a metre away until it is said
      return {{path + "/lux", key == "lux/distance" ? Json{{"illuminance_lx", 1000}, {"distance", kept}}
                                                    : Json{{"illuminance_lx", kept}, {"distance", 1.0}}}};
    return {{pointer, kept}};
  };
  out.title = [name, label, text](double v) { return QString("%1: %2 %3").arg(name, label.toLower(), text(v)); };
  return out;
}

/// Which of a front's measures its kind has.
bool ofFront(const std::optional<LightFront>& front, const std::string& key) {
  const auto own = front ? front_measures(front->kind) : std::span<const FrontMeasure>();
  return std::any_of(own.begin(), own.end(),
                     [&](const FrontMeasure& m) { return key == std::string("front/") + m.key; });
}
/// Which of a modifier's measures its face has, and what stands before it.
bool ofModifier(const Modifier& m, const std::string& key) {
  const auto shape = m.shape;
  if (key.starts_with("front/")) return ofFront(m.front, key);
  if (key == "width" || key == "height") return shape == LightShape::rectangle;
  return key != "radius" || (shape && shape != LightShape::rectangle && shape != LightShape::tube);
}
QString sizeText(double a, double b, Units units) {
  return q(length_text(a, units)) + " x " + q(length_text(b, units));
}

/// Which of a support's numbers its kind has.
bool belongs(const Support& s, const std::string& key) {
  if (key == "count" || key == "price") return true;
  if (key == "load") return !s.slides();
  if (key.starts_with("rpm")) return s.turns() || s.kind == SupportKind::head;
  if (key == "radius") return s.turns();
  if (key == "reach") return s.kind != SupportKind::turntable && !s.slides() && s.kind != SupportKind::head;
  if (key == "length") return s.kind == SupportKind::arm;
  if (key == "steps_per_turn" || key == "microsteps")
    return s.kind != SupportKind::stand && s.kind != SupportKind::arm;
  return s.slides();
}

}  // namespace

std::vector<KitGroup> kitGroups() {
  return {{"kit/cameras", QObject::tr("Cameras"), QObject::tr("camera")},
          {"kit/lenses", QObject::tr("Lenses"), QObject::tr("lens")},
          {"kit/lights", QObject::tr("Lights"), QObject::tr("light")},
          {"kit/modifiers", QObject::tr("Modifiers"), QObject::tr("modifier")},
          {"kit/cards", QObject::tr("Cards and flags"), QObject::tr("card or flag")},
          {"kit/surfaces", QObject::tr("Surfaces"), QObject::tr("surface")},
          {"kit/backdrops", QObject::tr("Backdrops"), QObject::tr("backdrop")},
          {"kit/supports", QObject::tr("Supports"), QObject::tr("support")},
          {"kit/media", QObject::tr("Memory"), QObject::tr("memory card")},
          {"kit/batteries", QObject::tr("Batteries"), QObject::tr("battery")},
          {"kit/consumables", QObject::tr("Used up"), QObject::tr("consumable")}};
}

const Json* kitItem(const Document& document, const KitPlace& place) {
  const auto& list = document.list(place.list);
  return place.index < list.size() ? list[place.index].get() : nullptr;
}
QString kitName(const Json& item) {
  const std::string name = item.value("name", "");
  return q(name.empty() ? item.value("id", "") : name);
}

QString kitLine(const std::string& list, const Json& item, Units units) {
  const auto n = [&](const char* key) {
    const Json* v = below(item, key);
    return v && v->is_number() ? v->get<double>() : unsaid;
  };
  QStringList words;
  const auto say = [&](double v, const auto& make) {
    if (!std::isnan(v)) words << make(v);
  };
  if (list == "kit/cameras") {
    const auto modes = item.find("modes");
    const auto count = modes == item.end() ? 0 : static_cast<int>(modes->size());
    say(n("sensor_width"), [](double v) { return QObject::tr("%1 mm wide").arg(q(number_text(v * 1e3, 3))); });
    words << (count == 1 ? QObject::tr("1 mode") : QObject::tr("%1 modes").arg(count));
  } else if (list == "kit/lenses") {
    const double a = n("focal_low"), b = n("focal_high");
    words << (a == b ? QObject::tr("%1 mm").arg(q(number_text(a * 1e3, 4)))
                     : QObject::tr("%1 to %2 mm").arg(q(number_text(a * 1e3, 4)), q(number_text(b * 1e3, 4))));
    say(n("f_number_low"), [](double v) { return "f/" + q(number_text(v, 3)); });
    say(n("close_focus"), [&](double v) { return QObject::tr("near %1").arg(q(length_text(v, units))); });
  } else if (list == "kit/lights") {
    say(n("lumens"), [](double v) { return QObject::tr("%1 lm").arg(q(number_text(v, 5))); });
    if (item.contains("ies")) words << QObject::tr("measured");
    say(n("lux/illuminance_lx"), [](double v) { return QObject::tr("%1 lx").arg(q(number_text(v, 5))); });
    say(n("watts"), [](double v) { return QObject::tr("%1 W").arg(q(number_text(v, 4))); });
  } else if (list == "kit/modifiers") {
    if (item.value("shape", "") == "rectangle")
      words << sizeText(n("width"), n("height"), units);
    else
      say(n("radius"), [&](double v) { return QObject::tr("%1 across").arg(q(length_text(2 * v, units))); });
    say(n("grid_deg"), [](double v) { return QObject::tr("grid %1\u00b0").arg(q(number_text(v, 3))); });
    if (item.value("doors", false)) words << QObject::tr("doors");
    if (const Json* kind = below(item, "front/kind"); kind && kind->is_string())
      words << q(kind->get<std::string>());
  } else if (list == "kit/cards" || list == "kit/surfaces" || list == "kit/backdrops") {
    words << sizeText(n("width"), n(list == "kit/surfaces" ? "depth" : "height"), units);
    if (const Json* kind = below(item, "material/kind"); kind && kind->is_string())
      words << q(kind->get<std::string>());
  } else if (list == "kit/supports") {
    if (item.contains("kind")) words << q(item.value("kind", ""));
    say(n("load"), [](double v) { return QObject::tr("%1 kg").arg(q(number_text(v, 3))); });
    say(n("travel"), [&](double v) { return q(length_text(v, units)); });
    say(n("reach"), [&](double v) { return q(length_text(v, units)); });
  } else if (list == "kit/media") {
    say(n("gigabytes"), [](double v) { return QObject::tr("%1 GB").arg(q(number_text(v, 5))); });
  } else if (list == "kit/batteries") {
    say(n("watt_hours"), [](double v) { return QObject::tr("%1 Wh").arg(q(number_text(v, 4))); });
  } else {
    say(n("stock"), [&](double v) { return q(number_text(v, 5)) + " " + q(item.value("unit", "")); });
  }
  if (const double pieces = n("count"); !std::isnan(pieces) && pieces != 1)
    words << QObject::tr("%1 pieces").arg(q(number_text(pieces, 4)));
  return words.join(", ");
}

std::vector<HandField> kitFields(const Session& session, const KitPlace& place, std::size_t mode) {
  std::vector<HandField> fields;
  const Json* item = kitItem(session.document(), place);
  if (!item) return fields;
  const std::string path = fmt::format("/{}/{}", place.list, place.index);
  const QString name = kitName(*item);
  const Fields& own = *fields_of(place.list);
  for (const PageField& f : pageFields(own))
    if ((place.list != "kit/consumables" || f.key != "count") &&
        (place.list != "kit/supports" || belongs(*session.project().supports[place.index], f.key)) &&
        (place.list != "kit/lights" || !f.key.starts_with("front/") ||
         ofFront(session.project().light_kits[place.index]->front, f.key)) &&
        (place.list != "kit/modifiers" || ofModifier(*session.project().modifiers[place.index], f.key)))
      fields.push_back(field(session, *item, path, f, name, "kit_"));
  if (place.list == "kit/cameras") {
    const auto modes = item->find("modes");
    if (modes != item->end() && mode < modes->size())
      for (const PageField& f : pageFields(*own.field("modes")->inner))
        fields.push_back(field(session, (*modes)[mode], fmt::format("{}/modes/{}", path, mode), f,
                               QObject::tr("%1, mode %2").arg(name, q((*modes)[mode].value("id", ""))), "mode_"));
  }
  return fields;
}

}  // namespace cinnabar
