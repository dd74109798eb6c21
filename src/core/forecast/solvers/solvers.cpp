#include "cinnabar/forecast/solvers/solvers.h"

#include <algorithm>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/solvers/proposals.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

struct Row {
  SolverKind told;
  Solver solves;
};

constexpr Range moments{0.0, 86400.0}, bearings{-360.0, 360.0};

const std::vector<Row>& rows() {
  static const std::vector<Row> list{
      {{"facing",
        "The label faces",
        "the label faces a bearing at a moment of the shot, for so long",
        {{"bearing", "Bearing", "degrees", bearings},
         {"at", "At", "s on screen", moments},
         {"for", "For", "s on screen", {0.04, 3600.0}}}},
       solve_facing},
      {{"peak",
        "The light peaks with the label",
        "a light is brightest as the label comes round, and leaves with it",
        {},
        true},
       solve_peak},
      {{"centred", "Kept in the middle", "a travelling camera keeps the product in the middle", {}},
       solve_centred},
      {{"orbit",
        "Round the product",
        "the camera goes round the product, which keeps its size",
        {{"degrees", "Round by", "degrees", {-720.0, 720.0}, 60.0}}},
       solve_orbit},
      {{"boom",
        "Up on an arm",
        "the camera swings up or down on an arm that is held behind it, and looks at the product all the way",
        {{"rise", "Swings up by", "degrees", {-170.0, 170.0}, 25.0},
         {"arm", "Arm", "m", {0.1, 20.0}},
         {"begins", "Begins at", "degrees", {-85.0, 85.0}, 0.0}}},
       solve_boom},
      {{"push",
        "Push in",
        "the shot ends with the product so large; by travelling, by zooming and by cropping",
        {{"to", "Ends at", "% of the frame's height", {1.0, 400.0}, 80.0}}},
       solve_push},
      {{"rack",
        "Focus from A to B",
        "the focus goes from one distance to another and lands at a moment",
        {{"from", "From", "m", {0.01, 1000.0}},
         {"to", "To", "m", {0.01, 1000.0}},
         {"at", "Lands at", "s on screen", moments},
         {"takes", "Takes", "s on the set", {0.1, 60.0}, 0.8}}},
       solve_rack},
      {{"match",
        "Match another shot",
        "the product stands where, and as large as, another shot leaves it",
        {{"with", "Shot", "", {1.0, 10000.0, false, false, true}, 1.0, false, true}}},
       solve_match},
      {{"loop", "Without a seam", "the last frame runs into the first", {}}, solve_loop},
      {{"ramp",
        "Slow from a beat on",
        "the film slows and has come to its slow speed at a moment",
        {{"at", "Slow at", "s on screen", moments},
         {"slow", "Slower by", "times", {1.0, 1000.0, true, false}, 4.0},
         {"over", "Over", "s on the set", {0.001, 60.0}, 0.2}}},
       solve_ramp},
      {{"spin",
        "So many turns",
        "the turntable turns so often within the shot",
        {{"turns", "Turns", "", {-1000.0, 1000.0}, 1.0}}},
       solve_spin},
      {{"stop-motion",
        "Picture by picture",
        "the turntable stands for every picture and is turned between",
        {{"degrees", "Turned by", "degrees", {-36000.0, 36000.0}, 360.0},
         {"hold", "Each shown for", "frames", {1.0, 24.0, false, false, true}, 2.0},
         {"seconds", "Each takes", "s on the set", {1.0, 86400.0}, 30.0}}},
       solve_stop_motion},
      {{"release",
        "Let go in time",
        "an effect is let go so that its moment comes when it is wanted",
        {{"at", "Comes at", "s on screen", moments}},
        false,
        true},
       solve_release},
      {{"height",
        "From how high",
        "an effect is let go from so high that its moment comes when it is wanted, its crown is so high, it "
        "smears no more as it lands, or its stream stays whole",
        {{"at", "Comes at", "s on screen", moments},
         {"crown", "Crown", "m", {0.001, 1.0}},
         {"smear", "Smears at most", "px", {0.1, 1e4}},
         {"whole", "Whole until it lands", "1: yes", {0.0, 1.0, false, false, true}}},
        false,
        true},
       solve_height},
      {{"flow",
        "How much a second",
        "a pour has such a flow that its moment comes when it is wanted",
        {{"at", "Comes at", "s on screen", moments}},
        false,
        true},
       solve_flow}};
  return list;
}

const Row* row_of(const std::string& kind) {
  for (const Row& row : rows())
    if (row.told.kind == kind) return &row;
  return nullptr;
}

Json track_json(const KeyedTrack& track, Json known) {
  if (!known.is_object()) known = Json::object();
  known["target"] = track.target;
  known["profile"] = shape_names()[static_cast<std::size_t>(track.shape)];
  known["keys"] = keys_json(track);
  if (track.shape == Shape::trapezoid)
    known["ramp"] = track.ramp;
  else
    known.erase("ramp");
  return known;
}

}  // namespace

const std::vector<SolverKind>& solver_kinds() {
  static const std::vector<SolverKind> kinds = [] {
    std::vector<SolverKind> list;
    for (const Row& row : rows()) list.push_back(row.told);
    return list;
  }();
  return kinds;
}

Expected<SolveRequest> read_solve(const std::string& kind, const std::vector<std::string>& words) {
  const Row* row = row_of(kind);
  if (!row) {
    std::vector<std::string> all;
    for (const Row& one : rows()) all.push_back(one.told.kind);
    return fail(kind, "is no move that is solved", "give one of " + listed(all));
  }
  std::vector<std::string> keys;
  if (row->told.light) keys.emplace_back("light");
  if (row->told.effect) keys.insert(keys.end(), {"effect", "event"});
  for (const AskedNumber& number : row->told.keys) keys.push_back(number.key);
  SolveRequest request{kind, {}};
  const auto other = [&](const std::string& key, const std::string& value) -> Expected<bool> {
    std::string* text = row->told.light && key == "light"     ? &request.light
                        : row->told.effect && key == "effect" ? &request.effect
                        : row->told.effect && key == "event"  ? &request.event
                                                              : nullptr;
    if (text) *text = value;
    return text != nullptr;
  };
  auto read = read_asked(kind, words, row->told.keys, keys, other);
  if (!read) return tl::unexpected(read.error());
  request.numbers = *std::move(read);
  return request;
}

Values with_tracks(const Bench& b, const std::vector<KeyedTrack>& put, const std::vector<std::string>& off) {
  const std::string pointer = b.shot_path + "/tracks";
  Json list = value_at(b.doc, pointer).value_or(Json::array());
  if (!list.is_array()) list = Json::array();
  const auto target = [](const Json& t) { return t.value("target", std::string()); };
  list.erase(
      std::remove_if(list.begin(), list.end(),
                     [&](const Json& t) { return std::find(off.begin(), off.end(), target(t)) != off.end(); }),
      list.end());
  for (const KeyedTrack& track : put) {
    const auto known =
        std::find_if(list.begin(), list.end(), [&](const Json& t) { return target(t) == track.target; });
    if (known != list.end())
      *known = track_json(track, *known);
    else
      list.push_back(track_json(track, Json::object()));
  }
  return {{pointer, list}};
}

void add_need(const Bench& b, Values& changes, const std::string& key, const Json& need) {
  const std::string needs = b.shot_path + "/needs";
  if (!value_at(b.doc, needs)) changes.emplace_back(needs, Json::object());
  changes.emplace_back(needs + "/" + key, need);
}

KeyedTrack value_track(const std::string& target, Shape shape, std::vector<std::pair<double, double>> keys) {
  return {target, shape, std::move(keys)};
}
KeyedTrack place_track(const std::string& target, Shape shape, std::vector<std::pair<double, Vec3>> keys) {
  KeyedTrack track{target, shape, {}};
  track.set_places(std::move(keys));
  return track;
}

Vec3 HeldProduct::middle(const Project& project, const Shot& shot, double t) const {
  const auto [low, high] = height_span(*product);
  return product_at(project, shot, *placed, t).world({0, 0.5 * (low + high), 0});
}
std::optional<double> HeldProduct::size(const Project& project, const Shot& shot, double t) const {
  const ProductPose pose = product_at(project, shot, *placed, t);
  const CameraPose camera = camera_at(shot, t);
  const ShotOptics optics = shot_optics(project, shot);
  double low = 1e9, high = -1e9;
  const auto take = [&](const Vec3& own) {
    const auto image = image_of(camera, pose.world(own));
    if (!image) return;
    const double up = optics.turned == 0 ? image->y : image->x;
    low = std::min(low, up), high = std::max(high, up);
  };
  for (const Part& part : product->parts)
    for (const ProfilePoint& p : part.profile)
      for (const RimPoint& edge : rim(part, p, 24)) take(edge.at);
  if (high <= low) {  // a mesh has no outline: the box about it
    const Extent box = extent(*product);
    for (const double x : {box.left, box.right})
      for (const double y : {box.low, box.high})
        for (const double z : {box.back, box.front}) take({x, y, z});
  }
  if (high <= low) return std::nullopt;
  const double kept = crop_at(shot, t).value_or(Vec3{0, 0, 1}).z;  // by the edit
  return 100.0 * (high - low) / (optics.turned == 0 ? optics.sensor_height : optics.sensor_width) / kept;
}

std::optional<HeldProduct> held_product(const Project& project, const Shot& shot) {
  for (const ShotProduct& placed : shot.products)
    if (const Product* product = by_id(project.products, placed.product)) return HeldProduct{&placed, product};
  return std::nullopt;
}

double on_beat(const Bench& b, double screen) {
  if (!b.project.beats_per_minute || *b.project.beats_per_minute <= 0.0) return screen;
  const double beat = 60.0 / *b.project.beats_per_minute, starts = b.project.starts_at(b.index);
  double there = std::round((starts + screen) / beat) * beat - starts;
  while (there < 0.0) there += beat;
  while (there > b.shot.screen_time && there - beat >= 0.0) there -= beat;
  return there;
}

Expected<Solved> solve(const Forecaster& forecaster, const Document& document, std::size_t shot,
                       const SolveRequest& request, const std::atomic<bool>* cancel) {
  const Row* row = row_of(request.kind);
  if (!row) return fail(request.kind, "is no move that is solved", "choose one of the list");
  ProjectReader reader;
  const Project project = reader.read(document);
  if (shot >= project.shots.size()) return fail("shot", "is not there", "choose one of the list");
  if (!project.shots[shot]->camera) return fail("the shot", "has no camera", "give it one first");
  if (project.shots[shot]->reversed && !row->told.effect)
    return fail("the shot", "plays backward", "turn it forward to have its moves worked out, and backward after");
  const Bench b(document, project, shot);
  const auto proposals = row->solves(b, request);
  if (!proposals) return tl::unexpected(proposals.error());
  Solved out;
  out.impossible = proposals->impossible;
  for (const Proposal& one : proposals->list) {
    if (cancel && cancel->load()) break;
    const auto after = with_values(document, one.changes);
    if (!after) {
      if (out.impossible.empty()) out.impossible = one.title + ": " + after.error().text();
      continue;
    }
    std::string fault;
    Project then;
    if (const auto faults = validate(*after, edit_between(document, *after, one.title)); !faults.empty()) {
      fault = faults.front().message;
    } else {
      then = reader.read(*after);
      fault = one.fault(Bench(*after, then, shot));
    }
    if (!fault.empty()) {
      if (out.impossible.empty()) out.impossible = one.title + ": " + fault;
      continue;
    }
    out.list.push_back({one.title, one.changes, *after, forecaster.levels(then, shot, {}, cancel)});
  }
  if (!out.list.empty()) out.impossible.clear();
  return out;
}

}  // namespace cinnabar
