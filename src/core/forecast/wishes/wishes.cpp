#include "cinnabar/forecast/wishes/wishes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/wishes/granting.h"
#include "cinnabar/project/checks/validation.h"

namespace cinnabar {
namespace {

constexpr std::size_t most_answers = 3;

/// One row a kind: what it is for, what it takes, and who grants it.
struct WishRow {
  WishKind told;
  Granter grants;
};

const std::vector<WishRow>& wish_rows() {
  static const std::vector<WishRow> list{
      {{"stripe",
        "A stripe in the gloss",
        "a strip's image in the gloss, its middle at -1 (left edge) to 1, so wide",
        {{"at", "Across", "", {-0.98, 0.98}, -0.88, true}, {"width", "Width", "%", {0.5, 60.0}, 5.0}}},
       grant_stripe},
      {{"backdrop",
        "The backdrop so bright",
        "the backdrop so many stops from the exposure's grey",
        {{"stops", "From grey", "stops", {-12.0, 4.0}, -1.0}}},
       grant_backdrop},
      {{"soft",
        "A shadow so soft",
        "a fingertip's shadow with an edge so many millimetres wide",
        {{"mm", "Edge", "mm", {0.05, 500.0}, 20.0}}},
       grant_soft},
      {{"ratio",
        "Sides so far apart",
        "the two sides so many stops apart",
        {{"stops", "Apart", "stops", {0.0, 10.0}, 2.0}}},
       grant_ratio},
      {{"even",
        "The backdrop even",
        "the backdrop even within so many stops",
        {{"stops", "Within", "stops", {0.02, 5.0}, 0.5}}},
       grant_even},
      {{"gradient",
        "The backdrop from bright to dark",
        "the backdrop over so many stops, bright at one side",
        {{"stops", "Over", "stops", {0.3, 10.0}, 2.0}},
        false,
        true},
       grant_gradient},
      {{"no-mirror",
        "No reflection here",
        "no light, bright card or gear mirrored at a place of the product",
        {},
        true},
       grant_no_mirror},
      {{"dark-edge", "Edges of glass dark", "edges of glass darker than what is behind", {}}, grant_dark_edge},
      {{"bright-edge", "Edges of glass bright", "edges of glass brighter than what is behind", {}},
       grant_bright_edge},
      {{"pool",
        "A pool of light here",
        "a pool of light at a place, falling off by a stop at its radius",
        {{"radius", "Radius", "m", {0.005, 2.0}, 0.06}},
        true},
       grant_pool}};
  return list;
}

const WishRow* wish_row(const std::string& kind) {
  for (const WishRow& row : wish_rows())
    if (row.told.kind == kind) return &row;
  return nullptr;
}

std::optional<Vec3> read_point(const std::string& word) {
  const auto three = parse_three(word);
  if (!three || std::any_of(three->begin(), three->end(), [](double v) { return std::abs(v) > 1000.0; }))
    return std::nullopt;
  return Vec3{(*three)[0], (*three)[1], (*three)[2]};
}

}  // namespace

std::vector<std::string> WishKind::keys() const {
  std::vector<std::string> list;
  if (at) list.emplace_back("at");
  for (const AskedNumber& n : numbers) list.push_back(n.key);
  if (from) list.emplace_back("from");
  return list;
}

const std::vector<WishKind>& wish_kinds() {
  static const std::vector<WishKind> kinds = [] {
    std::vector<WishKind> list;
    for (const WishRow& row : wish_rows()) list.push_back(row.told);
    return list;
  }();
  return kinds;
}

Expected<Wish> read_wish(const std::string& kind, const std::vector<std::string>& words) {
  const WishRow* row = wish_row(kind);
  if (!row) {
    std::vector<std::string> all;
    for (const WishRow& one : wish_rows()) all.push_back(one.told.kind);
    return fail(kind, "is no wish", "give one of " + listed(all));
  }
  Wish wish{kind, {}, {}, row->told.from ? "bottom" : ""};
  const auto other = [&](const std::string& key, const std::string& value) -> Expected<bool> {
    if (row->told.at && key == "at") {
      wish.at = read_point(value);
      if (!wish.at) return fail(kind + " at", "cannot be read", "give x,y,z in metres");
      return true;
    }
    if (!row->told.from || key != "from") return false;
    if (value != "bottom" && value != "top" && value != "left" && value != "right")
      return fail(kind + " from", "is no side", "give bottom, top, left or right");
    wish.from = value;
    return true;
  };
  auto numbers = row->told.numbers;
  for (AskedNumber& number : numbers) number.needed = true;  // in words nothing of a wish is left out
  auto read = read_asked(kind, words, numbers, row->told.keys(), other);
  if (!read) return tl::unexpected(read.error());
  wish.numbers = *std::move(read);
  if (row->told.at && !wish.at) return fail(kind + " at", "is missing", "give at=x,y,z in metres");
  return wish;
}

Expected<WishAnswers> answers_for(const Forecaster& forecaster, const Document& document, std::size_t shot,
                                  const std::vector<Wish>& wishes, const std::atomic<bool>* cancel) {
  if (wishes.empty()) return fail("--want", "is missing", "say what is wanted");
  std::vector<const WishRow*> kinds;
  for (const Wish& wish : wishes) {
    kinds.push_back(wish_row(wish.kind));
    if (!kinds.back()) return fail(wish.kind, "is no wish", "see the list of kinds");
  }
  ProjectReader reader;
  // One after another; each later wish begins from the answers so far, and must keep the earlier ones.
  std::vector<WishAnswer> so_far{WishAnswer{}};
  so_far.front().met = true;
  WishAnswers out;
  double nearest = unbounded;
  for (std::size_t w = 0; w < wishes.size(); ++w) {
    std::vector<WishAnswer> next;
    for (const WishAnswer& base : so_far) {
      if (cancel && cancel->load()) return out;
      const auto begun = with_values(document, base.changes);
      if (!begun) return tl::unexpected(begun.error());
      auto granted = kinds[w]->grants({forecaster, *begun, shot, cancel}, wishes[w]);
      if (!granted) return tl::unexpected(granted.error());
      if (granted->list.empty() && std::abs(granted->short_of) < std::abs(nearest))
        nearest = granted->short_of, out.why = granted->why;
      for (Grant& grant : granted->list) {
        WishAnswer answer = base;
        answer.title += (answer.title.empty() || grant.title.empty() ? "" : "; ") + grant.title;
        for (auto& change : grant.changes) answer.changes.push_back(std::move(change));
        if (w == 0) answer.value = grant.value;
        const auto after = with_values(document, answer.changes);
        if (!after || !validate(*after).empty()) continue;
        bool kept = grant.met;
        for (std::size_t earlier = 0; earlier < w && kept; ++earlier) {
          const auto still = kinds[earlier]->grants({forecaster, *after, shot, cancel, true}, wishes[earlier]);
          kept = still && !still->list.empty() && still->list.front().met;
          if (!kept)
            out.why = said("{} stands against {}", wishes[w].kind, wishes[earlier].kind),
            nearest = still ? still->short_of : 0.0;
          if (earlier == 0 && kept) answer.value = still->list.front().value;
        }
        answer.met = answer.met && kept;
        if (answer.met) next.push_back(std::move(answer));
        if (next.size() >= most_answers) break;
      }
      if (next.size() >= most_answers) break;
    }
    so_far = std::move(next);
    if (so_far.empty()) {
      out.short_of = std::isfinite(nearest) ? nearest : 0.0;
      if (out.why.empty()) out.why = said("no change within reach of this kit grants {}", wishes[w].kind);
      return out;
    }
  }
  const auto before = forecaster.levels(reader.read(document), shot, {}, cancel);
  for (WishAnswer& answer : so_far) {
    const auto after = with_values(document, answer.changes);
    ProjectReader fresh;
    for (const Level& then : forecaster.levels(fresh.read(*after), shot, {}, cancel))
      for (const Level& was : before)
        if (was.id == then.id && (was.state != then.state || was.value != then.value))
          answer.levels.push_back({std::nullopt, was, then});
  }
  const auto harm = [](const WishAnswer& a) {
    int sum = 0;
    for (const auto& moved : a.levels) sum += std::max(0, worse_by(moved.before, moved.after));
    return sum;
  };
  std::stable_sort(so_far.begin(), so_far.end(),
                   [&](const WishAnswer& a, const WishAnswer& b) { return harm(a) < harm(b); });
  out.list = std::move(so_far);
  out.why.clear();
  return out;
}

}  // namespace cinnabar
