// Shots as JSON, and merged back where both sides went on: by hand-made cases and by merging both ways.
#include "cinnabar/formats/shot_merge.h"

#include <random>

#include "worlds.h"

namespace cinnabar {
namespace {

Document three() {
  Json doc = worlds::bare();
  for (const char* id : {"b", "c"}) {
    Json shot = doc["shots"][0];
    shot["id"] = id, shot["name"] = std::string("Shot ") + id;
    doc["shots"].push_back(shot);
  }
  return *Document::from_json(doc);
}
Document with(const Document& d, const std::string& pointer, const std::optional<Json>& value) {
  if (!value && !value_at(d, pointer)) return d;  // nothing to take away
  return *with_value(d, pointer, value);
}
/// The file that a side would send after its changes: its shots, and what it began from.
Json sent(const Document& base, const Document& changed) {
  Json file = shots_json(changed);
  file["as_written"] = shots_json(base)["shots"];
  return file;
}
ShotsRead merged(const Document& here, const Json& file) {
  auto read = shots_from_json(here, file, "theirs.json");
  EXPECT_TRUE(read) << read.error().text();
  return *read;
}
std::map<std::string, Json> by_name(const Document& d) {
  std::map<std::string, Json> shots;
  for (const JsonPtr& s : d.list("shots")) shots[s->at("id")] = *s;
  return shots;
}

TEST(ShotMerge, WhatNobodyChangedComesBackAsNothing) {
  const Document d = three();
  const ShotsRead read = merged(d, Json::parse(shots_json(d).dump()));
  EXPECT_TRUE(read.edit.changes.empty());
  EXPECT_EQ(read.added + read.changed, 0);
  EXPECT_TRUE(read.conflicts.empty() && read.faults.empty());
}

TEST(ShotMerge, ValuesChangedOnOneSideAreKeptFromThatSide) {
  const Document base = three(), here = with(base, "/shots/0/camera/iso", 1600),
                 there = with(with(base, "/shots/0/camera/f_number", 8), "/shots/1/name", "Theirs");
  const ShotsRead read = merged(here, sent(base, there));
  EXPECT_TRUE(read.conflicts.empty());
  EXPECT_EQ(read.changed, 2);
  const Document after = applied(here, read.edit);
  EXPECT_EQ((*after.list("shots")[0])["camera"]["iso"], 1600);
  EXPECT_EQ((*after.list("shots")[0])["camera"]["f_number"], 8);
  EXPECT_EQ((*after.list("shots")[1])["name"], "Theirs");
}

TEST(ShotMerge, WhatBothChangedIsShownAndChosenOneByOne) {
  const Document base = three();
  const Document here = with(with(base, "/shots/0/camera/iso", 1600), "/shots/0/notes", "mine"),
                 there = with(with(base, "/shots/0/camera/iso", 200), "/shots/0/notes", "a note");
  const ShotsRead read = merged(here, sent(base, there));
  ASSERT_EQ(read.conflicts.size(), 2u);
  EXPECT_TRUE(read.edit.changes.empty()) << "both stay as they are";
  EXPECT_EQ(read.conflicts[0].field, "camera/iso");
  EXPECT_EQ(read.conflicts[0].mine, "1600");
  EXPECT_EQ(read.conflicts[0].theirs, "200");
  const Document chosen = applied(here, conflicts_taken(here, {read.conflicts[0]}));
  EXPECT_EQ((*chosen.list("shots")[0])["camera"]["iso"], 200);
  EXPECT_EQ((*chosen.list("shots")[0])["notes"], "mine");
  // The same change on both sides is none to choose about.
  EXPECT_TRUE(merged(here, sent(base, here)).conflicts.empty());
}

TEST(ShotMerge, ShotsAddedTakenAwayAndMovedThere) {
  const Document base = three();
  Document there = base;
  auto& list = there.lists["shots"];
  Json fresh = *list[0];
  fresh["id"] = "new", fresh["name"] = "Added there";
  list.erase(list.begin() + 1);                                    // b is gone
  std::swap(list[0], list[1]);                                     // c before the first
  list.insert(list.begin(), std::make_shared<const Json>(fresh));  // and a new one begins
  const ShotsRead read = merged(base, sent(base, there));
  EXPECT_TRUE(read.conflicts.empty() && read.faults.empty());
  const Document after = applied(base, read.edit);
  std::vector<std::string> order;
  for (const JsonPtr& s : after.list("shots")) order.push_back(s->at("id"));
  EXPECT_EQ(order, (std::vector<std::string>{"new", "c", (*base.list("shots")[0])["id"].get<std::string>()}));
}

TEST(ShotMerge, TakenAwayOnOneSideAndChangedOnTheOtherIsAsked) {
  const Document base = three();
  Document gone = base;
  gone.lists["shots"].erase(gone.lists["shots"].begin() + 1);
  const Document changed = with(base, "/shots/1/screen_time", 9.0);
  // Gone here, changed there: it may be taken back.
  const ShotsRead back = merged(gone, sent(base, changed));
  ASSERT_EQ(back.conflicts.size(), 1u);
  EXPECT_EQ(back.conflicts[0].field, "the shot");
  EXPECT_EQ(back.conflicts[0].mine, "nothing");
  EXPECT_EQ(by_name(applied(gone, conflicts_taken(gone, back.conflicts))), by_name(changed));
  // Changed here, gone there: it may be let go.
  const ShotsRead away = merged(changed, sent(base, gone));
  ASSERT_EQ(away.conflicts.size(), 1u);
  EXPECT_EQ(by_name(applied(changed, conflicts_taken(changed, away.conflicts))), by_name(gone));
  // Gone here and untouched there stays gone.
  EXPECT_TRUE(merged(gone, sent(base, base)).edit.changes.empty());
}

TEST(ShotMerge, WithoutWhatItBeganFromEveryDifferenceIsAsked) {
  const Document base = three(), there = with(base, "/shots/2/camera/iso", 800);
  Json file = shots_json(there);
  file.erase("as_written");
  const ShotsRead read = merged(base, file);
  ASSERT_EQ(read.conflicts.size(), 1u);
  EXPECT_EQ(read.conflicts[0].field, "camera/iso");
  EXPECT_TRUE(read.edit.changes.empty());
}

TEST(ShotMerge, AShotThatWouldNotBeValidIsRefusedByItsId) {
  const Document base = three();
  Json file = sent(base, base);
  file["shots"][1]["screen_time"] = -4;
  file["shots"][2]["camera"]["iso"] = 800;
  const ShotsRead read = merged(base, file);
  ASSERT_EQ(read.faults.size(), 1u);
  EXPECT_TRUE(read.faults[0].starts_with("shot b: /shots/1/screen_time")) << read.faults[0];
  EXPECT_EQ(read.changed, 1) << "the others are read";
}

/// One of many small changes to a random shot.
Document changed(const Document& d, std::mt19937& random) {
  if (d.list("shots").empty()) return d;
  const std::size_t i = random() % d.list("shots").size();
  const std::string shot = "/shots/" + std::to_string(i);
  switch (random() % 6) {
    case 0:
      return with(d, shot + "/camera/iso", 100 << (random() % 5));
    case 1:
      return with(d, shot + "/screen_time", 1.0 + static_cast<double>(random() % 4));
    case 2:
      return with(d, shot + "/name", std::string("name ") + std::to_string(random() % 5));
    case 3:
      return with(d, shot + "/needs",
                  random() % 2 ? std::optional<Json>(Json{{"slow", 2 + random() % 3}}) : std::nullopt);
    case 4:
      return with(d, shot + "/notes",
                  random() % 3 ? std::optional<Json>("n" + std::to_string(random() % 3)) : std::nullopt);
    default:
      Document next = d;
      if (random() % 2 && next.lists["shots"].size() > 1)
        next.lists["shots"].erase(next.lists["shots"].begin() + static_cast<std::ptrdiff_t>(i));
      return next;
  }
}

TEST(ShotMerge, BothWaysGiveTheSame) {
  // Theirs merged here with every choice theirs is what ours merged there with every choice theirs gives.
  std::mt19937 random(12);
  int conflicts = 0;
  for (int round = 0; round < 900; ++round) {
    const Document base = three();
    Document here = base, there = base;
    for (unsigned k = random() % 5; k-- > 0;) here = changed(here, random);
    for (unsigned k = random() % 5; k-- > 0;) there = changed(there, random);
    const ShotsRead one = merged(here, sent(base, there)), other = merged(there, sent(base, here));
    EXPECT_EQ(one.conflicts.size(), other.conflicts.size());
    conflicts += static_cast<int>(one.conflicts.size());
    Document a = applied(here, one.edit);
    a = applied(a, conflicts_taken(a, one.conflicts));
    EXPECT_EQ(by_name(a), by_name(applied(there, other.edit))) << "round " << round;
    EXPECT_TRUE(validate(a).empty());
  }
  EXPECT_GT(conflicts, 100);
}

TEST(ShotMerge, HostileFilesAreRefusedByPlace) {
  const Document d = three();
  const auto refused = [&](const Json& file) {
    const auto read = shots_from_json(d, file, "x.json");
    return read ? std::string() : read.error().text();
  };
  EXPECT_NE(refused(Json::array()).find("no list of shots"), std::string::npos);
  EXPECT_NE(refused({{"format", "cinnabar-shots"}}).find("version"), std::string::npos);
  EXPECT_NE(refused({{"format", "cinnabar-shots"}, {"version", 1}}).find("has no \"shots\""), std::string::npos);
  EXPECT_NE(refused({{"format", "cinnabar-shots"}, {"version", 1}, {"shots", 3}}).find("is no list"),
            std::string::npos);
  EXPECT_NE(refused({{"format", "cinnabar-shots"}, {"version", 1}, {"shots", {3}}}).find("/shots/0 has no id"),
            std::string::npos);
  Json twice = shots_json(d);
  twice["shots"].push_back(twice["shots"][0]);
  EXPECT_NE(refused(twice).find("is there twice"), std::string::npos);
  EXPECT_FALSE(shots_from_text(d, "{", "x.json"));
  // Any text cut or scrambled is refused or read, and what is read is valid.
  const std::string whole = sent(d, with(d, "/shots/0/camera/iso", 800)).dump();
  std::mt19937 random(5);
  for (int k = 0; k < 300; ++k) {
    std::string text = whole;
    if (k % 2)
      text.resize(random() % text.size());
    else
      for (int n = 0; n < 3; ++n) text[random() % text.size()] = "0123456789{}[]\",:-e"[random() % 19];
    const auto read = shots_from_text(d, text, "x.json");
    if (!read) continue;
    EXPECT_TRUE(validate(applied(d, read->edit)).empty());
  }
}

}  // namespace
}  // namespace cinnabar
