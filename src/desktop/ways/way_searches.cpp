#include "cinnabar/desktop/ways/way_searches.h"

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/methods/fewer_lights.h"
#include "cinnabar/forecast/methods/methods.h"
#include "cinnabar/forecast/stops/find_stops.h"

namespace cinnabar {
namespace {

Ways none(const Error& error) { return {{}, q(error.text())}; }

/// What a way does to the levels: those that change their state, the harmed first.
std::vector<WayLine> linesOf(const std::vector<MovedLevel>& moved) {
  std::vector<WayLine> worse, better;
  for (const MovedLevel& m : moved) {
    const int by = worse_by(m.before, m.after);
    const QString name =
        m.shot ? QObject::tr("in %1: %2").arg(*m.shot + 1).arg(q(brief_of(m.after))) : q(brief_of(m.after));
    if (by > 0) worse.push_back({QObject::tr("%1 %2").arg(name, stateWord(m.after.state)), m.after.state});
    if (by < 0) better.push_back({QObject::tr("%1 %2").arg(name, stateWord(m.after.state)), State::level});
  }
  worse.insert(worse.end(), better.begin(), better.end());
  if (worse.empty()) worse.push_back({QObject::tr("no level leaves its state"), State::level});
  return worse;
}
/// How many of all levels stand how, and which are out.
std::vector<WayLine> linesOf(const std::vector<Level>& levels) {
  const Tally t = tally(levels);
  std::vector<WayLine> lines;
  if (t.out == 0 && t.leaning == 0)
    return {{QObject::tr("%1 of %2 level").arg(t.level).arg(levels.size()), State::level}};
  for (const State state : {State::out, State::leaning})
    for (const Level& level : levels)
      if (level.state == state)
        lines.push_back({QObject::tr("%1 %2").arg(q(brief_of(level)), stateWord(state)), state});
  return lines;
}

}  // namespace

WaySearch waysToWishes(const Forecaster& forecaster, std::vector<Wish> wishes) {
  return [forecaster, wishes = std::move(wishes)](const Document& document, std::size_t shot,
                                                  const std::atomic<bool>& cancelled) -> Ways {
    const auto found = answers_for(forecaster, document, shot, wishes, &cancelled);
    if (!found) return none(found.error());
    Ways out;
    for (const WishAnswer& answer : found->list) {
      auto after = with_values(document, answer.changes);
      if (!after) continue;
      const QString title = answer.changes.empty() ? QObject::tr("It is so already") : q(answer.title);
      out.list.push_back({title, {}, linesOf(answer.levels), *std::move(after)});
    }
    if (out.list.empty())
      out.none = found->short_of != 0.0 ? QObject::tr("Not possible: %1; short of it by %2")
                                              .arg(q(found->why), q(number_text(std::abs(found->short_of), 3)))
                                        : QObject::tr("Not possible: %1").arg(q(found->why));
    return out;
  };
}

WaySearch waysToLight(const Forecaster& forecaster) {
  return [forecaster](const Document& document, std::size_t shot, const std::atomic<bool>& cancelled) -> Ways {
    auto found = methods_for(forecaster, document, shot, {}, &cancelled);
    if (!found) return none(found.error());
    Ways out;
    for (MethodStanding& one : *found)
      out.list.push_back({q(one.method->title), q(one.method->why), linesOf(one.levels), std::move(one.after)});
    if (out.list.empty()) out.none = QObject::tr("No way can be built: no light of the kit is owned");
    return out;
  };
}

WaySearch waysToExpose(const Forecaster& forecaster, std::set<std::string> pins) {
  return [forecaster, pins = std::move(pins)](const Document& document, std::size_t shot,
                                              const std::atomic<bool>& cancelled) -> Ways {
    auto found = find_stops(forecaster, document, shot, pins, &cancelled);
    if (!found) return none(found.error());
    Ways out;
    for (StopsAnswer& one : found->list) {
      QString price =
          one.minutes > 0 ? QObject::tr("%1 min").arg(q(number_text(one.minutes, 2))) : QObject::tr("as it is");
      for (const std::string& gear : one.gear) price += ", " + q(gear);
      auto lines = linesOf(one.levels);
      lines.insert(lines.begin(), {price, State::unknown});
      out.list.push_back({q(one.title), {}, std::move(lines), std::move(one.after)});
    }
    if (out.list.empty())
      out.none =
          found->short_stops < 0
              ? QObject::tr("No settings expose it: %1 stops of light are too much")
                    .arg(q(number_text(-found->short_stops, 3)))
              : QObject::tr(
                    "No settings expose it: %1 stops of light are missing, that is %2 times the "
                    "light: lights nearer, more of them, or a pin let go")
                    .arg(q(number_text(found->short_stops, 3)), q(number_text(std::exp2(found->short_stops), 2)));
    return out;
  };
}

WaySearch waysToMove(const Forecaster& forecaster, SolveRequest request) {
  return [forecaster, request = std::move(request)](const Document& document, std::size_t shot,
                                                    const std::atomic<bool>& cancelled) -> Ways {
    auto found = solve(forecaster, document, shot, request, &cancelled);
    if (!found) return none(found.error());
    Ways out;
    for (SolveAnswer& one : found->list)
      out.list.push_back({q(one.title), {}, linesOf(one.levels), std::move(one.after)});
    if (out.list.empty()) out.none = QObject::tr("Not possible: %1").arg(q(found->impossible));
    return out;
  };
}

WaySearch waysWithFewerLights(const Forecaster& forecaster) {
  return [forecaster](const Document& document, std::size_t shot, const std::atomic<bool>& cancelled) -> Ways {
    auto found = fewer_lights(forecaster, document, shot, &cancelled);
    if (!found) return none(found.error());
    Ways out;
    for (WithoutLight& one : *found) {
      if (out.list.size() >= 3) break;
      auto moved = one.worse;
      moved.insert(moved.end(), one.better.begin(), one.better.end());
      const QString title = QObject::tr("Without %1").arg(q(one.name));
      out.list.push_back({title, {}, linesOf(moved), std::move(one.after)});
    }
    if (out.list.empty()) out.none = QObject::tr("There is no light to do without");
    return out;
  };
}

}  // namespace cinnabar
