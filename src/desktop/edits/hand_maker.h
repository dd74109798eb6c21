// Builds the fields of one thing in hand; for the sources of this folder only.
#pragma once
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {

inline double tidied(double v) { return std::round(v * 1e5) / 1e5; }

using Parse = std::function<std::optional<double>(const QString&)>;
inline std::optional<double> degreesTyped(const QString& typed) {
  QString text = typed.trimmed();
  double sign = 1;
  for (const auto& [word, s] : {std::pair{QObject::tr("right"), 1.0}, std::pair{QObject::tr("left"), -1.0}})
    if (text.endsWith(word)) text.chop(word.size()), sign = s;
  text.remove(QChar(0x00B0));
  const auto v = parse_number(text.trimmed().toStdString());
  return v ? std::optional(sign * *v) : std::nullopt;
}

/// Builds the fields of one thing.
class HandMaker {
 public:
  HandMaker(const Session& s, std::string path, QString name)
      : session_(s), path_(std::move(path)), name_(std::move(name)) {}

  void add(const QString& id, const QString& label, double value, double step, std::function<QString(double)> text,
           Parse parse, std::function<Session::Values(double)> set) {
    fields.push_back(
        {{label, id, value, step, text, std::move(parse)}, std::move(set), [name = name_, label, text](double v) {
           return QString("%1: %2 %3").arg(name, label.toLower(), text(v));
         }});
  }
  void member(const QString& id, const QString& label, const char* key, double value, double step,
              std::function<QString(double)> text, Parse parse, double low = -1e9, double high = 1e9) {
    add(id, label, value, step, std::move(text), std::move(parse),
        [pointer = path_ + "/" + key, low, high](double v) -> Session::Values {
          return {{pointer, tidied(std::clamp(v, low, high))}};
        });
  }
  void length(const QString& id, const QString& label, double value, std::function<Session::Values(double)> set,
              double step = 0.01) {
    const Units u = session_.units();
    add(
        id, label, value, step, [u](double v) { return q(length_text(v, u)); },
        [u](const QString& t) { return parse_length(t.toStdString(), u); }, std::move(set));
  }
  void lengthMember(const QString& id, const QString& label, const char* key, double value, double low = 0.001,
                    double step = 0.01) {
    length(
        id, label, value,
        [pointer = path_ + "/" + key, low](double v) -> Session::Values {
          return {{pointer, tidied(std::max(low, v))}};
        },
        step);
  }
  void degrees(const QString& id, const QString& label, double value, std::function<Session::Values(double)> set,
               bool sided = false) {
    add(
        id, label, value, 1.0,
        [sided](double v) {
          const QString number = q(fixed_text(sided ? std::abs(v) : v, 0)) + QChar(0x00B0);
          return sided && std::abs(v) >= 0.5 ? number + " " + (v > 0 ? QObject::tr("right") : QObject::tr("left"))
                                             : number;
        },
        degreesTyped, std::move(set));
  }
  void degreesMember(const QString& id, const QString& label, const char* key, double value) {
    degrees(id, label, value, [pointer = path_ + "/" + key](double v) -> Session::Values {
      return {{pointer, tidied(v)}};
    });
  }
  void readOnly(const QString& id, const QString& label, const QString& text) {
    fields.push_back({{label, id, 0, 0, [text](double) { return text; }, {}}, {}, {}});
  }

  /// Distance, bearing, height and tilt of something that looks at an aim.
  void aimed(const Selection& selection, const Vec3& place, const Vec3& aim) {
    const Vec3 from = place - aim;
    const double distance = cinnabar::length(from), flat = std::hypot(from.x, from.z);
    const double bearing = cinnabar::degrees(std::atan2(from.x, from.z)),
                 rise = cinnabar::degrees(std::atan2(from.y, flat));
    const auto polar = [aim](double d, double b, double r) {
      return aim + turned(Vec3{0, std::sin(radians(r)), std::cos(radians(r))}, b) * d;
    };
    const Session* s = &session_;
    length("distance", QObject::tr("Distance"), distance, [=](double v) {
      return carried_to(s->onSet(), selection, polar(std::max(0.02, v), bearing, rise), false);
    });
    degrees(
        "bearing", QObject::tr("Bearing"), bearing,
        [=](double v) { return carried_to(s->onSet(), selection, polar(distance, v, rise), false); }, true);
    length("height", QObject::tr("Height"), place.y, [=](double v) {
      return carried_to(s->onSet(), selection, {place.x, v, place.z}, false);
    });
    degrees("tilt", QObject::tr("Tilt"), -rise, [=](double v) {
      return carried_to(s->onSet(), selection, polar(distance, bearing, std::clamp(-v, -89.0, 89.0)), false);
    });
  }

  [[nodiscard]] const std::string& path() const { return path_; }
  std::vector<HandField> fields;

 private:
  const Session& session_;
  std::string path_;
  QString name_;
};

// Of things of the set (hand_set.cpp).
void surfaceFields(HandMaker& m, const Session& s, const Selection& selection);
void backdropFields(HandMaker& m, const Session& s);
void cardFields(HandMaker& m, const Session& s, const Selection& selection);
void bodyFields(HandMaker& m, const Session& s, const Selection& selection);
void roomFields(HandMaker& m, const Session& s);

}  // namespace cinnabar
