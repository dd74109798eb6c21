#include "cinnabar/planning/packing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/planning/heads.h"

namespace cinnabar {
namespace {

double takes_of(const Shot& shot) { return std::max(1.0, shot.takes_planned.value_or(1.0)); }

class Packer {
 public:
  explicit Packer(const Project& project) : p_(project) {}

  Packing pack() {
    cameras_and_lenses();
    lights();
    supports();
    stands();
    supplies();
    consumables();
    droplets();
    modifiers();
    sheets();
    for (const PackedThing& t : out_.things) {
      if (t.missing() <= 0.0) continue;
      if (t.price)
        out_.cost += *t.price * t.missing();
      else
        ++out_.without_price;
    }
    return std::move(out_);
  }

 private:
  template <class T>
  void add(const std::string& list, const T& item, double wanted, double owned, std::vector<std::size_t> shots,
           const std::string& unit = {}, const std::string& note = {}) {
    out_.things.push_back({list, item.id, name_or(item.name, item.id), unit, wanted,
                           item.holding.owned ? owned : 0.0, item.holding.price, item.holding.hired,
                           std::move(shots), note});
  }
  template <class F>
  [[nodiscard]] std::vector<std::size_t> shots_with(F used) const {
    std::vector<std::size_t> list;
    for (std::size_t i = 0; i < p_.shots.size(); ++i)
      if (used(*p_.shots[i])) list.push_back(i);
    return list;
  }

  void cameras_and_lenses() {
    for (const auto& c : p_.cameras) {
      auto shots = shots_with([&](const Shot& s) { return s.camera && s.camera->camera == c->id; });
      if (!shots.empty()) add("kit/cameras", *c, 1, c->holding.count, std::move(shots));
    }
    for (const auto& l : p_.lenses) {
      auto shots = shots_with([&](const Shot& s) { return s.camera && s.camera->lens == l->id; });
      if (!shots.empty()) add("kit/lenses", *l, 1, l->holding.count, std::move(shots));
    }
  }

  void lights() {
    const auto most = [&](const std::string& kit) {
      std::pair<double, std::string> best{0, {}};
      for (const auto& setup : p_.setups) {
        const auto n =
            static_cast<double>(std::count_if(setup->lights.begin(), setup->lights.end(),
                                              [&](const Light& l) { return l.kit == kit && !l.daylight; }));
        if (n > best.first) best = {n, setup->id};
      }
      return best;
    };
    const auto shots_on = [&](const std::string& kit) {
      return shots_with([&](const Shot& s) {
        const Setup* setup = by_id(p_.setups, s.setup);
        return setup && std::any_of(setup->lights.begin(), setup->lights.end(),
                                    [&](const Light& l) { return l.kit == kit && !l.daylight; });
      });
    };
    for (const auto& kit : p_.light_kits)
      if (const auto [count, where] = most(kit->id); count > 0)
        add("kit/lights", *kit, count, kit->holding.count, shots_on(kit->id), {}, said("on set-up {}", where));
    if (const auto [count, where] = most({}); count > 0)
      out_.things.push_back({"kit/lights",
                             {},
                             said("Light that is not of the kit"),
                             {},
                             count,
                             0,
                             {},
                             false,
                             shots_on({}),
                             said("on set-up {}", where)});
  }

  void supports() {
    for (const auto& s : p_.supports) {
      double most = 0;
      auto shots = shots_with([&](const Shot& shot) {
        const auto n = static_cast<double>(std::count_if(shot.products.begin(), shot.products.end(),
                                                         [&](const ShotProduct& x) { return x.on == s->id; }));
        most = std::max(most, std::min(n, 1.0));  // what stands together turns together
        return n > 0;
      });
      if (s->slides() && s.get() == first_slider()) {
        shots = shots_with([](const Shot& shot) { return shot.track(Tracked::camera_slide) != nullptr; });
        most = shots.empty() ? 0 : 1;
      }
      if (most > 0) add("kit/supports", *s, most, s->holding.count, std::move(shots));
    }
  }
  [[nodiscard]] const Support* first_slider() const {
    for (const auto& s : p_.supports)
      if (s->slides() && s->holding.owned) return s.get();
    return nullptr;
  }

  /// Stands and arms carry a light or a card each.
  void stands() {
    const auto holders = holders_of(p_);
    const auto of_kind = [](SupportKind kind) { return [kind](const Support* s) { return s->kind == kind; }; };
    const bool arms = has_arms(holders);
    for (const SupportKind kind : {SupportKind::stand, SupportKind::arm}) {
      const auto first = std::find_if(holders.begin(), holders.end(), of_kind(kind));
      if (first == holders.end()) continue;
      std::size_t most = 0, worst = 0;
      std::string why;
      for (const auto& setup : p_.setups) {
        const std::vector<Head> heads = heads_of(*setup);
        const auto on = held_on(heads, holders);
        std::size_t own = 0, unheld = 0;
        std::string because;
        for (std::size_t k = 0; k < heads.size(); ++k) {
          if (on[k] ? on[k]->kind != kind : (heads[k].hangs && arms) != (kind == SupportKind::arm)) continue;
          ++own;
          if (!on[k] && ++unheld == 1) because = why_unheld(heads[k], holders, p_.units);
        }
        most = std::max(most, own);
        if (unheld > worst) worst = unheld, why = said("for a head of set-up {} {}", setup->id, because);
      }
      if (most == 0) continue;
      const auto owned = static_cast<std::size_t>(std::count_if(holders.begin(), holders.end(), of_kind(kind)));
      add("kit/supports", **first, static_cast<double>(worst ? std::max(most, owned + worst) : most),
          static_cast<double>(owned), shots_with([](const Shot&) { return true; }), {},
          worst ? why : said("one for each light and card"));
    }
  }

  void supplies() {
    double gigabytes = 0, watt_hours = 0;
    std::vector<std::size_t> recorded;
    for (std::size_t i = 0; i < p_.shots.size(); ++i) {
      const Shot& shot = *p_.shots[i];
      const CameraBody* body = shot.camera ? by_id(p_.cameras, shot.camera->camera) : nullptr;
      if (!body) continue;
      const double seconds = takes_of(shot) * (shot.set_time() + lead_seconds);
      for (const CameraMode& m : body->modes)
        if (m.id == shot.camera->mode) gigabytes += m.megabits_per_s * seconds / 8000.0;
      watt_hours += body->watts.value_or(0.0) * (seconds + takes_of(shot) * 60.0 * shot.reset_minutes) / 3600.0;
      recorded.push_back(i);
    }
    supply("kit/media", p_.media, gigabytes, "GB", recorded);
    supply("kit/batteries", p_.batteries, watt_hours, "Wh", recorded);
  }
  /// As many of the first kind owned as the amount asks for, after what the others hold.
  void supply(const std::string& list, const std::vector<std::shared_ptr<const Supply>>& items, double amount,
              const std::string& unit, const std::vector<std::size_t>& shots) {
    if (amount <= 0.0) return;
    double left = amount;
    for (const auto& item : items) {
      if (item->amount <= 0.0 || (!item->holding.owned && left <= 0.0)) continue;
      const double pieces = std::ceil(left / item->amount - 1e-9);
      const bool last = item == items.back();
      const double wanted = last ? pieces : std::min(pieces, item->holding.owned ? item->holding.count : 0.0);
      if (wanted <= 0.0) continue;
      add(list, *item, wanted, item->holding.count, shots, {},
          said("{} {} for all takes planned", number_text(amount, 3), unit));
      left -= wanted * item->amount;
    }
  }

  void consumables() {
    for (const auto& c : p_.consumables) {
      double wanted = 0;
      std::string stale;
      auto shots = shots_with([&](const Shot& shot) {
        bool used = false;
        for (const Use& use : shot.uses)
          if (use.consumable == c->id) used = true, wanted += use.amount * takes_of(shot);
        const double minutes = takes_of(shot) * (shot.set_time() / 60.0 + shot.reset_minutes);
        if (used && c->shelf_minutes && minutes > *c->shelf_minutes)
          stale = said("good for {} min, one shot's takes need {} min: open it fresh",
                       number_text(*c->shelf_minutes, 3), number_text(minutes, 3));
        return used;
      });
      if (wanted > 0) add("kit/consumables", *c, wanted, c->stock, std::move(shots), c->unit, stale);
    }
  }

  /// What the droplets' school sprays on, where nothing of the kit is named so.
  void droplets() {
    for (const auto school : {DropletsRule::glycerin, DropletsRule::water}) {
      auto shots =
          shots_with([&](const Shot& s) { return s.move == "mist" && p_.rule<DropletsRule>(s) == school; });
      const bool glycerin = school == DropletsRule::glycerin;
      const bool there = std::any_of(p_.consumables.begin(), p_.consumables.end(), [&](const auto& c) {
        return glycerin ? has_word(c->name, "glycerin") || has_word(c->name, "glycerine") ||
                              has_word(c->name, "glycerol")
                        : has_word(c->name, "water");
      });
      if (!shots.empty() && !there)
        out_.things.push_back(
            {"kit/consumables",
             {},
             glycerin ? said("Glycerin and water, half and half, in a mister") : said("Plain water in a mister"),
             {},
             1,
             0,
             {},
             false,
             std::move(shots),
             glycerin ? said("wiped off afterwards; makes the floor slippery") : said("renewed for every take")});
    }
  }

  /// The most that one set-up uses at once of each, and of cards that are there to be set up.
  template <class Stock, class Count>
  void most_at_once(const std::string& list, const Stock& stock, Count count) {
    for (const auto& item : stock) {
      double most = 0;
      std::string where;
      for (const auto& setup : p_.setups)
        if (const double n = count(*setup, item->id); n > most) most = n, where = setup->id;
      if (most > 0)
        add(list, *item, most, item->holding.count, shots_with([&](const Shot& s) {
              const Setup* setup = by_id(p_.setups, s.setup);
              return setup && count(*setup, item->id) > 0;
            }),
            {}, said("on set-up {}", where));
    }
  }
  void modifiers() {
    most_at_once("kit/modifiers", p_.modifiers, [](const Setup& setup, const std::string& id) {
      return static_cast<double>(std::count_if(setup.lights.begin(), setup.lights.end(),
                                               [&](const Light& l) { return l.modifier == id; }));
    });
    most_at_once("kit/cards", p_.card_stock, [](const Setup& setup, const std::string& id) {
      return static_cast<double>(
          std::count_if(setup.cards.begin(), setup.cards.end(), [&](const Card& c) { return c.kit == id; }));
    });
    most_at_once("kit/surfaces", p_.surface_stock, [](const Setup& setup, const std::string& id) {
      return setup.surface && setup.surface->kit == id ? 1.0 : 0.0;
    });
    most_at_once("kit/backdrops", p_.backdrop_stock,
                 [](const Setup& setup, const std::string& id) { return setup.backdrop.kit == id ? 1.0 : 0.0; });
  }

  /// Other cards, surfaces and backdrops are made or cut to size: they are listed, and count as there.
  void sheets() {
    const Units units = p_.units;
    const auto size = [&](double w, double h) { return length_text(w, units) + " x " + length_text(h, units); };
    struct Made {
      std::string setup, what, note;
      std::size_t thing;
    };
    std::vector<Made> known;
    for (const auto& setup : p_.setups) {
      auto shots = shots_with([&](const Shot& s) { return s.setup == setup->id; });
      const auto made = [&](const std::string& what, const std::string& name, const std::string& note) {
        const auto same = std::find_if(known.begin(), known.end(), [&](const Made& m) {
          return !setup->of.empty() && m.setup == setup->of && m.what == what && m.note == note;
        });
        if (same != known.end()) {  // a variation takes that of the set-up it varies
          auto& there = out_.things[same->thing].shots;
          there.insert(there.end(), shots.begin(), shots.end());
          std::sort(there.begin(), there.end());
          there.erase(std::unique(there.begin(), there.end()), there.end());
          known.push_back({setup->id, what, note, same->thing});
          return;
        }
        known.push_back({setup->id, what, note, out_.things.size()});
        out_.things.push_back({"setups", setup->id, name, {}, 1, 1, {}, false, shots, note});
      };
      if (setup->surface && setup->surface->kit.empty())
        made("surface", said("Surface of set-up {}", setup->id),
             size(setup->surface->width, setup->surface->depth) + ", " +
                 material_name(setup->surface->material.kind));
      if (setup->backdrop.kind != BackdropKind::none && setup->backdrop.kit.empty())
        made("backdrop", said("Backdrop of set-up {}", setup->id),
             size(setup->backdrop.width, setup->backdrop.height) + ", " +
                 material_name(setup->backdrop.material.kind));
      for (const Card& card : setup->cards)
        if (card.kit.empty())
          made(card.id, name_or(card.name, card.id),
               size(card.width, card.height) + ", " + material_name(card.material.kind));
      for (const Gear& body : setup->gear)
        if (body.form == GearForm::ridge)
          made(body.id, name_or(body.name, body.id),
               said("{} long, under tape {} wide", length_text(body.size.x, units),
                    length_text(body.size.z, units)));
        else if (body.dressed)
          made(body.id, name_or(body.name, body.id),
               size(body.size.x, body.size.y) + " x " + length_text(body.size.z, units) + ", " +
                   material_name(body.material.kind));
    }
  }

  const Project& p_;
  Packing out_;
};

}  // namespace

Packing packing(const Project& project) { return Packer(project).pack(); }

std::vector<std::string> shortages(const Project& project, const Packing& packing) {
  std::vector<std::string> list;
  for (const PackedThing& t : packing.things) {
    if (t.missing() <= 0.0) continue;
    const std::string unit = t.unit.empty() ? "" : " " + t.unit;
    std::string text =
        said("{}: {}{} wanted, {}{} owned", t.name, number_text(t.wanted, 5), unit, number_text(t.owned, 5), unit);
    if (!t.note.empty()) text += " (" + t.note + ")";
    list.push_back(text);
  }
  if (project.means.budget && packing.cost > *project.means.budget)
    list.push_back(said("What is missing costs {}, {} more than the budget of {}", number_text(packing.cost, 6),
                        number_text(packing.cost - *project.means.budget, 6),
                        number_text(*project.means.budget, 6)));
  return list;
}

std::string newly_short(const Project& before, const Project& after) {
  const Packing was = packing(before), is = packing(after);
  std::string names;
  for (const PackedThing& thing : is.things) {
    const auto known = std::find_if(was.things.begin(), was.things.end(), [&](const PackedThing& t) {
      return t.list == thing.list && t.id == thing.id && t.name == thing.name;
    });
    if (thing.missing() > (known == was.things.end() ? 0.0 : known->missing()) + 1e-9)
      names += (names.empty() ? "" : ", ") + name_or(thing.name, thing.id);
  }
  return names;
}

}  // namespace cinnabar
