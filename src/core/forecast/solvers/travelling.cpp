// Solvers of the camera's own moves.
#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/solvers/proposals.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

/// Targets that turn the camera by themselves.
const std::vector<std::string> turning{target_text(Tracked::camera_slide), target_text(Tracked::camera_pan),
                                       target_text(Tracked::camera_tilt)};

tl::unexpected<Error> no_product() { return fail("the shot", "has no product", "put one on the floor first"); }
tl::unexpected<Error> no_length() { return fail("the shot", "has no length", "give it one on the Board"); }

/// How far from the frame's middle the product is at the worst moment, as a share of its width.
double off_centre(const Bench& b) {
  const auto held = held_product(b.project, b.shot);
  double worst = 0.0;
  for (int k = 0; held && k <= 137; ++k) {  // not where keys are put
    const double t = b.shot.set_time() * k / 137;
    const auto image = image_of(camera_at(b.shot, t), held->middle(b.project, b.shot, t));
    worst = std::max(worst, image ? std::hypot(image->x, image->y) / b.optics.sensor_width : 1.0);
  }
  return worst;
}

/// The camera's place at evenly spread moments, as keys.
std::vector<std::pair<double, Vec3>> spread(double end, int pieces, const std::function<Vec3(double)>& at) {
  std::vector<std::pair<double, Vec3>> keys;
  for (int k = 0; k <= pieces; ++k) keys.emplace_back(end * k / pieces, at(end * k / pieces));
  return keys;
}

/// The product's middle all the way; where it stands one key is enough.
std::vector<std::pair<double, Vec3>> followed(const Bench& b, const HeldProduct& held) {
  const double end = b.shot.set_time();
  auto keys = spread(end, 64, [&](double t) { return held.middle(b.project, b.shot, t); });
  if (std::all_of(keys.begin(), keys.end(),
                  [&](const auto& key) { return length(key.second - keys.front().second) < 1e-6; }))
    keys.resize(1);
  return keys;
}

}  // namespace

Expected<Proposals> solve_centred(const Bench& b, const SolveRequest&) {
  const auto held = held_product(b.project, b.shot);
  if (!held) return no_product();
  const double end = b.shot.set_time();
  const KeyedTrack *slide = b.shot.track(Tracked::camera_slide), *way = b.shot.track(Tracked::camera_place);
  const KeyedTrack* moves = way ? way : slide;
  if (end <= 0.0) return no_length();
  if (!moves || moves->keys.size() < 2)
    return fail("the camera", "does not travel", "add a slider or a travel track on the ladder first");
  const auto fault = [](const Bench& then) {
    const double off = off_centre(then);
    return off > 0.01 ? said("the product wanders {} % of the frame from its middle", number_text(100 * off, 2))
                      : std::string();
  };
  Proposals out;
  const auto aims = followed(b, *held);
  std::vector<std::pair<double, Vec3>> places;
  for (const auto& key : moves->keys) places.emplace_back(key.first, camera_at(b.shot, key.first).place);
  KeyedTrack travel = place_track(Tracked::camera_place, moves->shape, std::move(places));
  travel.ramp = moves->ramp;
  out.list.push_back({said("Travels {} and looks at the product all the way", b.len(travel.keys.back().second)),
                      with_tracks(b, {travel, place_track(Tracked::camera_aim, Shape::linear, aims)}, turning),
                      fault});
  // The same with a head on the slider: pan and tilt at fine steps.
  if (slide && !way) {
    std::vector<std::pair<double, double>> pans, tilts;
    ShotCamera camera = b.camera;
    for (int k = 0; k <= 48; ++k) {
      const double t = end * k / 48;
      const Vec3 from = camera_at(b.shot, t).place, to = held->middle(b.project, b.shot, t);
      const Facing still = facing(camera.place, camera.aim, 0.0), wanted = facing(from, to, 0.0);
      const auto bearing = [](const Vec3& v) { return degrees(std::atan2(v.x, -v.z)); };
      const auto rise = [](const Vec3& v) { return degrees(std::asin(std::clamp(v.y, -1.0, 1.0))); };
      pans.emplace_back(t, std::remainder(bearing(wanted.ahead) - bearing(still.ahead), 360.0));
      tilts.emplace_back(t, rise(wanted.ahead) - rise(still.ahead));
    }
    const auto [low, high] = std::minmax_element(pans.begin(), pans.end(),
                                                 [](const auto& a, const auto& c) { return a.second < c.second; });
    out.list.push_back(
        {said("Slides, and the head pans {} degrees with it", number_text(high->second - low->second, 3)),
         with_tracks(b, {value_track(Tracked::camera_pan, Shape::linear, pans),
                         value_track(Tracked::camera_tilt, Shape::linear, tilts)}),
         fault});
  }
  return out;
}

Expected<Proposals> solve_orbit(const Bench& b, const SolveRequest& request) {
  const auto held = held_product(b.project, b.shot);
  if (!held) return no_product();
  const double end = b.shot.set_time(), by = request.number("degrees", 60.0);
  if (end <= 0.0) return no_length();
  if (by == 0.0) return fail("degrees", "is 0", "give how far it goes round");
  const Vec3 axis = held->middle(b.project, b.shot, 0.0), from = camera_at(b.shot, 0.0).place - axis;
  if (std::hypot(from.x, from.z) < 1e-3)
    return fail("the camera", "stands straight over the product", "turn the product instead, with spin");
  // Chords short enough that the camera stays within a thousandth of its distance of the arc.
  const int pieces = std::max(24, static_cast<int>(std::ceil(std::abs(by) / 4.0)));
  Proposals out;
  for (const auto& [shape, words] :
       {std::pair{Shape::minimum_jerk, "from rest to rest"}, {Shape::linear, "evenly"}}) {
    const Shape eased_by = shape;
    const auto at = [&, eased_by](double t) {
      return held->middle(b.project, b.shot, t) + turned(from, by * eased(eased_by, t / end));
    };
    const KeyedTrack travel = place_track(Tracked::camera_place, Shape::linear, spread(end, pieces, at));
    out.list.push_back(
        {said("Round by {} degrees {}, {} of way", number_text(by, 4), words, b.len(travel.keys.back().second)),
         with_tracks(b, {travel, place_track(Tracked::camera_aim, Shape::linear, followed(b, *held))}, turning),
         [away = length(from)](const Bench& then) {
           const auto product = held_product(then.project, then.shot);
           for (int k = 0; k <= 96; ++k) {
             const double t = then.shot.set_time() * k / 96;
             const double off =
                 length(camera_at(then.shot, t).place - product->middle(then.project, then.shot, t)) / away - 1.0;
             if (std::abs(off) > 2e-3) return said("its size changes by {} %", number_text(100 * off, 2));
           }
           return off_centre(then) > 0.01 ? said("the product wanders from the middle") : std::string();
         }});
  }
  return out;
}

namespace {

/// The longest arm that is owned, or a usual one.
double owned_arm(const Project& project) {
  double longest = 0.0;
  for (const auto& support : project.supports)
    if (support->kind == SupportKind::arm && support->holding.owned)
      longest = std::max(longest, support->length.value_or(support->reach.value_or(0.0)));
  return longest > 0.0 ? longest : 1.2;
}

/// A camera's arm: held at `pivot`, `level` the way that it points out.
struct Arm {
  Vec3 pivot, level;
  double reach, begins_deg;

  [[nodiscard]] Vec3 at(double rise_deg) const {
    const double a = radians(begins_deg + rise_deg);
    return pivot + level * (reach * std::cos(a)) + Vec3{0, reach * std::sin(a), 0};
  }
};

/// Whether something there is over the surface, or over the ground where there is none.
bool over_surface(const Bench& b, const Vec3& place) {
  if (!b.setup || !b.setup->surface) return true;
  return std::abs(place.x) < b.setup->surface->width / 2 && std::abs(place.z) < b.setup->surface->depth / 2;
}

/// What is in the way of a camera on its way; empty where nothing is.
std::string in_the_way(const Bench& b, const HeldProduct& held, const std::function<Vec3(double)>& way) {
  constexpr double room = 0.05;  // under and around the camera
  const double reach = widest_reach(*held.product);
  const auto [low, high] = height_span(*held.product);
  for (int k = 0; k <= 96; ++k) {
    const double t = b.shot.set_time() * k / 96;
    const Vec3 place = way(t), from = place - held.middle(b.project, b.shot, t);
    if (place.y < room) return said("the camera would come down to {}", b.len(place.y));
    if (std::hypot(from.x, from.z) < reach + room && std::abs(from.y) < (high - low) / 2 + room)
      return said("the camera would meet the product");
  }
  return {};
}

}  // namespace

Expected<Proposals> solve_boom(const Bench& b, const SolveRequest& request) {
  const auto held = held_product(b.project, b.shot);
  if (!held) return no_product();
  const double end = b.shot.set_time(), rise = request.number("rise", 25.0),
               begins = request.number("begins", 0.0);
  if (end <= 0.0) return no_length();
  if (rise == 0.0) return fail("rise", "is 0", "give how far the arm swings");
  if (std::abs(begins + rise) > 90.0)
    return fail("rise", said("takes the arm over the upright, to {} degrees", number_text(begins + rise, 4)),
                "let it end within 90 degrees of level");
  const double reach = request.number("arm", owned_arm(b.project));
  const CameraPose pose = camera_at(b.shot, 0.0);
  const Vec3 middle = held->middle(b.project, b.shot, 0.0), to = middle - pose.place;
  Vec3 level{to.x, 0.0, to.z};
  if (length(level) < 1e-3) level = {pose.frame.up.x, 0.0, pose.frame.up.z};  // straight down: as the frame stands
  if (length(level) < 1e-9) level = {0, 0, -1};
  level = level / length(level);
  const double a = radians(begins);
  const Arm arm{pose.place - level * (reach * std::cos(a)) - Vec3{0, reach * std::sin(a), 0}, level, reach,
                begins};
  Proposals out;
  // Beside the surface it is held as low as its stand goes.
  if (arm.pivot.y < 0.0 && over_surface(b, arm.pivot)) {
    out.impossible = said("the arm would be held {} under the surface", b.len(-arm.pivot.y));
    return out;
  }
  const int pieces = std::max(24, static_cast<int>(std::ceil(std::abs(rise) / 2.0)));
  for (const auto& [shape, words] :
       {std::pair{Shape::minimum_jerk, "from rest to rest"}, {Shape::linear, "evenly"}}) {
    const Shape eased_by = shape;
    const auto at = [&, eased_by](double t) { return arm.at(rise * eased(eased_by, t / end)); };
    if (auto why = in_the_way(b, *held, at); !why.empty()) {
      out.impossible = std::move(why);
      continue;
    }
    std::vector<std::pair<double, double>> sharp;  // what was in focus stays as far from the product as it was
    const int fine = std::max(128, pieces);        // the product may go about on its own
    for (int k = 0; k <= fine; ++k) {
      const double t = end * k / fine, away = length(held->middle(b.project, b.shot, t) - at(t));
      sharp.emplace_back(t, std::max(pose.focus + away - length(to), 1.02 * pose.focal));
    }
    const double higher = arm.at(rise).y - pose.place.y;
    out.list.push_back(
        {higher > 0 ? said("{} up on an arm of {}, {}", b.len(higher), b.len(reach), in_words(words))
                    : said("{} down on an arm of {}, {}", b.len(-higher), b.len(reach), in_words(words)),
         with_tracks(b,
                     {place_track(Tracked::camera_place, Shape::linear, spread(end, pieces, at)),
                      place_track(Tracked::camera_aim, Shape::linear, followed(b, *held)),
                      value_track(Tracked::camera_focus, Shape::linear, sharp)},
                     turning),
         [arm, rise](const Bench& then) {
           for (int k = 0; k <= 96; ++k) {
             const double off = length(camera_at(then.shot, then.shot.set_time() * k / 96).place - arm.pivot);
             if (std::abs(off - arm.reach) > 1e-3 * arm.reach)
               return said("the camera leaves its arm by {}", then.len(std::abs(off - arm.reach)));
           }
           if (length(camera_at(then.shot, then.shot.set_time()).place - arm.at(rise)) > 1e-3 * arm.reach)
             return said("the arm does not come so far");
           return off_centre(then) > 0.01 ? said("the product wanders from the middle") : std::string();
         }});
  }
  return out;
}

namespace {

/// The crop that makes the product so much larger, about its middle, inside what was recorded.
Vec3 crop_to(const Bench& b, const HeldProduct& held, double larger) {
  const double end = b.shot.set_time(), width = 1.0 / larger;
  const auto image = image_of(camera_at(b.shot, end), held.middle(b.project, b.shot, end));
  const double x = image ? 0.5 + image->x / b.optics.sensor_width : 0.5,
               y = image ? 0.5 - image->y / b.optics.sensor_height : 0.5;
  return {std::clamp(x - width / 2, 0.0, 1.0 - width), std::clamp(y - width / 2, 0.0, 1.0 - width), width};
}

/// Zooming from the same place, where the lens can.
std::optional<Proposal> zoomed_to(const Bench& b, const HeldProduct& held, double wanted,
                                  const std::function<std::string(const Bench&)>& fault) {
  if (b.optics.focal_high <= b.optics.focal_low * 1.001) return std::nullopt;
  const double end = b.shot.set_time();
  const CameraPose last = camera_at(b.shot, end);
  const auto zoomed = [&](double focal) {
    Shot shot = b.shot;
    std::erase_if(shot.tracks, [](const KeyedTrack& t) { return is_target(t.target, Tracked::camera_focal); });
    shot.camera->focal = focal;
    return held.size(b.project, shot, end).value_or(0.0);
  };
  double from = b.optics.focal_low, to = b.optics.focal_high;
  if (zoomed(from) > wanted || zoomed(to) < wanted) return std::nullopt;
  for (int k = 0; k < 60; ++k) (zoomed(0.5 * (from + to)) < wanted ? from : to) = 0.5 * (from + to);
  const double focal = std::round(5e6 * (from + to)) / 1e7;
  return Proposal{
      said("Zoom to {} mm; what is behind grows with it", number_text(1e3 * focal, 3)),
      with_tracks(b, {value_track(Tracked::camera_focal, Shape::minimum_jerk, {{0.0, last.focal}, {end, focal}})}),
      fault};
}

}  // namespace

Expected<Proposals> solve_push(const Bench& b, const SolveRequest& request) {
  const auto held = held_product(b.project, b.shot);
  if (!held) return no_product();
  const double end = b.shot.set_time(), wanted = request.number("to", 80.0);
  if (end <= 0.0) return no_length();
  const auto now = held->size(b.project, b.shot, end);
  if (!now || *now <= 0.0)
    return fail("the product", "is not seen at the shot's end", "aim the camera at it first");
  const double larger = wanted / *now;
  if (std::abs(larger - 1.0) < 1e-3) return fail("to", "is how large it ends already", "give another size");
  const auto size_fault = [wanted](const Bench& then) {
    const auto product = held_product(then.project, then.shot);
    const auto size = product ? product->size(then.project, then.shot, then.shot.set_time()) : std::nullopt;
    return size && std::abs(*size - wanted) < 0.005 * wanted
               ? std::string()
               : said("it ends at {} %", number_text(size.value_or(0), 3));
  };
  Proposals out;
  // Travelling along the axis: found by halving, since the lens breathes.
  const CameraPose pose = camera_at(b.shot, 0.0);
  const double depth = pose.depth(held->middle(b.project, b.shot, end));
  const auto end_size = [&](double by) {
    Shot shot = b.shot;
    std::erase_if(shot.tracks, [](const KeyedTrack& t) {
      return is_target(t.target, Tracked::camera_place) || is_target(t.target, Tracked::camera_aim) ||
             is_target(t.target, Tracked::camera_focus) ||
             std::find(turning.begin(), turning.end(), t.target) != turning.end();
    });
    shot.camera->place = pose.place + pose.frame.ahead * by,
    shot.camera->aim = shot.camera->place + pose.frame.ahead;
    shot.camera->focus = std::max(pose.focus - by, pose.focal * 1.01);
    return held->size(b.project, shot, end).value_or(1e9);
  };
  double low = -std::max(20.0, 4.0 * depth), high = 0.98 * (depth - std::max(0.0, widest_reach(*held->product)));
  if (end_size(high) > wanted && end_size(low) < wanted) {
    for (int k = 0; k < 80; ++k) (end_size(0.5 * (low + high)) < wanted ? low : high) = 0.5 * (low + high);
    const double by = 0.5 * (low + high), focus = std::max(pose.focus - by, pose.focal * 1.01);
    const Vec3 ends = pose.place + pose.frame.ahead * by;
    out.list.push_back(
        {by > 0 ? said("Travel {} nearer; what is behind shifts", b.len(by))
                : said("Travel {} back; what is behind shifts", b.len(-by)),
         with_tracks(b,
                     {place_track(Tracked::camera_place, Shape::minimum_jerk, {{0.0, pose.place}, {end, ends}}),
                      place_track(Tracked::camera_aim, Shape::minimum_jerk,
                                  {{0.0, pose.place + pose.frame.ahead}, {end, ends + pose.frame.ahead}}),
                      value_track(Tracked::camera_focus, Shape::minimum_jerk, {{0.0, pose.focus}, {end, focus}})},
                     turning),
         size_fault});
  } else {
    out.impossible = said("the camera cannot stand so near or so far");
  }
  if (auto zoom = zoomed_to(b, *held, wanted, size_fault)) out.list.push_back(*std::move(zoom));
  // Cropping in the edit: nothing shifts, and pixels are spent.
  const double from_whole = larger / crop_at(b.shot, end).value_or(Vec3{0, 0, 1}).z;
  if (from_whole > 1.0) {
    const Vec3 crop = crop_to(b, *held, from_whole);
    int least = 0;
    for (const Deliverable& d : b.project.deliverables) least = std::max(least, d.width);
    const double kept = b.optics.width * crop.z;
    const std::string pixels = least == 0 ? said("{} pixels left", number_text(kept, 4))
                                          : said("{} pixels left of {} wanted", number_text(kept, 4), least);
    out.list.push_back(
        {said("Crop to {} % of the width in the edit; nothing shifts, {}", number_text(100 * crop.z, 3), pixels),
         with_tracks(b, {place_track(Tracked::crop, Shape::minimum_jerk, {{0.0, {0, 0, 1}}, {end, crop}})}),
         size_fault});
  }
  return out;
}

Expected<Proposals> solve_rack(const Bench& b, const SolveRequest& request) {
  const double end = b.shot.set_time(), whole = b.shot.screen_time;
  if (end <= 0.0) return no_length();
  // From what is sharp, or the first product; to what was given, or the next product.
  const CameraPose pose = camera_at(b.shot, 0.0);
  std::vector<double> depths;
  for (const ShotProduct& placed : b.shot.products)
    if (const Product* product = by_id(b.project.products, placed.product)) {
      const HeldProduct one{&placed, product};
      depths.push_back(pose.depth(one.middle(b.project, b.shot, 0.0)));
    }
  const double from = request.number("from", depths.size() > 1 ? depths[0] : b.camera.focus);
  const double to = request.number("to", depths.size() > 1 ? depths[1] : 0.0);
  if (to <= 0.0) return fail("to", "is missing", "give the distance that it goes to: to=0.9");
  for (const auto& [name, value] : {std::pair{"from", from}, {"to", to}})
    if (value <= pose.focal * 1.001)
      return fail(name, said("is nearer than the lens focuses, {}", b.len(value)), "give a greater distance");
  const double at = request.number("at", on_beat(b, 0.6 * whole)), takes = request.number("takes", 0.8);
  if (at > whole)
    return fail("at", said("lies after the shot's end, {} s", number_text(whole, 4)), "give a moment of it");
  const double lands = b.shot.clock.set_at(at), begins = lands - takes;
  Proposals out;
  if (begins < 0.0) {
    out.impossible = said("it would have to begin {} s before the shot; let it land later, or take less",
                          number_text(-begins, 3));
    return out;
  }
  for (const auto& [shape, words] :
       {std::pair{Shape::minimum_jerk, "smoothly"}, {Shape::trapezoid_third, "by thirds"}})
    out.list.push_back({said("Focus from {} to {} {}, landing at {} s on screen", b.len(from), b.len(to), words,
                             number_text(at, 4)),
                        with_tracks(b, {value_track(Tracked::camera_focus, shape, {{begins, from}, {lands, to}})}),
                        [=](const Bench& then) {
                          const double frame = 0.5 / then.project.timeline_rate;
                          const double there = camera_at(then.shot, then.shot.clock.set_at(at + frame)).focus,
                                       before = camera_at(then.shot, begins).focus;
                          return std::abs(there - to) < 1e-3 * to && std::abs(before - from) < 1e-3 * from
                                     ? std::string()
                                     : said("it does not land there");
                        }});
  return out;
}

Expected<Proposals> solve_match(const Bench& b, const SolveRequest& request) {
  const auto number = static_cast<std::size_t>(request.number("with", 1.0));
  if (number < 1 || number > b.project.shots.size() || number - 1 == b.index)
    return fail("with", "is no other shot", said("give a number from 1 to {}", b.project.shots.size()));
  const Shot& other = *b.project.shots[number - 1];
  const auto here = held_product(b.project, b.shot), there = held_product(b.project, other);
  if (!here || !there || !other.camera) return fail("the shots", "lack a product or a camera", "give them both");
  const double last = other.clock.set_at(other.screen_time);  // of what is shown
  const CameraPose pose = camera_at(other, last);
  const auto tall = [](const HeldProduct& p) {
    const auto [low, high] = height_span(*p.product);
    return high - low;
  };
  const Vec3 stood = there->middle(b.project, other, last), middle = here->middle(b.project, b.shot, 0.0);
  const double depth = pose.depth(stood);
  if (tall(*there) <= 0.0 || tall(*here) <= 0.0 || depth <= 0.0)
    return fail("a product", "has no height, or stands behind the camera", "mend it first");
  // As far away as makes it as large; the lens is drawn out by its focus, so it is gone over a few times.
  double away = depth, focus = pose.focus;
  CameraPose near = pose;
  for (int k = 0; k < 60; ++k) {
    focus = std::max(pose.focus * away / depth, pose.focal * 1.01);
    near.focus = focus;
    away = tall(*here) / tall(*there) * depth * near.image_distance() / pose.image_distance();
  }
  const double aside = away * pose.image_distance() / (depth * near.image_distance());
  const Vec3 to = stood - pose.place;
  const Vec3 place = middle - pose.frame.right * (dot(to, pose.frame.right) * aside) -
                     pose.frame.up * (dot(to, pose.frame.up) * aside) - pose.frame.ahead * away;
  const double roll = [&] {  // of a facing along the same axis that stands level
    const Facing level = facing(pose.place, pose.place + pose.frame.ahead, 0.0);
    return degrees(std::atan2(-dot(pose.frame.up, level.right), dot(pose.frame.up, level.up)));
  }();
  Json camera = value_at(b.doc, b.camera_path).value_or(Json::object());
  camera["place"] = point(place), camera["aim"] = point(place + pose.frame.ahead * away);
  camera["roll_deg"] = std::round(roll * 1e4) / 1e4, camera["focal"] = pose.focal;
  camera["focus"] = std::round(focus * 1e5) / 1e5;
  for (const char* key : {"camera", "mode", "lens"})
    if (const auto value = value_at(b.doc, fmt::format("/shots/{}/camera/{}", number - 1, key)))
      camera[key] = *value;
  std::vector<std::string> off;
  for (const KeyedTrack& track : b.shot.tracks)
    if (moved_by(track.target) == TrackedThing::camera) off.push_back(track.target);
  const auto fault = [&project = b.project, number, last](const Bench& then) -> std::string {
    const auto now = held_product(then.project, then.shot),
               was = held_product(project, *project.shots[number - 1]);
    const ShotOptics optics = shot_optics(project, *project.shots[number - 1]);
    const auto size = now->size(then.project, then.shot, 0.0),
               wanted = was->size(project, *project.shots[number - 1], last);
    const auto at = image_of(camera_at(then.shot, 0.0), now->middle(then.project, then.shot, 0.0)),
               there_at = image_of(camera_at(*project.shots[number - 1], last),
                                   was->middle(project, *project.shots[number - 1], last));
    if (!size || !wanted || !at || !there_at) return said("the product is not seen in both");
    if (std::abs(*size - *wanted) > 0.02 * *wanted)
      return said("it is {} % of the frame here and {} % there", number_text(*size, 3), number_text(*wanted, 3));
    const double apart = std::hypot(at->x / then.optics.sensor_width - there_at->x / optics.sensor_width,
                                    at->y / then.optics.sensor_height - there_at->y / optics.sensor_height);
    return apart > 0.01 ? said("it stands {} % of the frame beside", number_text(100 * apart, 2)) : std::string();
  };
  Values changes = with_tracks(b, {}, off);
  changes.emplace_back(b.camera_path, camera);
  Proposals out;
  out.list.push_back(
      {said("The camera of shot {} at its end, from the product's own place", number), changes, fault});
  if (other.setup != b.shot.setup) {
    // The light as well: its set-up, where every track of this shot that names things of its own is let go.
    std::vector<std::string> all = off;
    for (const KeyedTrack& track : b.shot.tracks)
      if (const auto moved = moved_by(track.target);
          moved == TrackedThing::light || moved == TrackedThing::card || moved == TrackedThing::backdrop)
        all.push_back(track.target);
    Values both = with_tracks(b, {}, all);
    both.emplace_back(b.camera_path, camera);
    both.emplace_back(b.shot_path + "/setup", other.setup);
    if (!b.shot.peak_light.empty()) both.emplace_back(b.shot_path + "/needs/peak", std::nullopt);
    out.list.push_back({said("The same, and its set-up's light"), std::move(both), fault});
  }
  return out;
}

}  // namespace cinnabar
