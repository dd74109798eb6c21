// The packing list as a table: one row a thing, quoted as RFC 4180 has it, read back as it was.
#include "cinnabar/formats/tables.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Json world() {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] = {worlds::rectangle("a", {0.5, 0.6, 0.5}, {0, 0, 0}, 0.4, 0.4, 2000),
                                worlds::rectangle("b", {-0.5, 0.6, 0.5}, {0, 0, 0}, 0.4, 0.4, 2000)};
  for (Json& light : doc["setups"][0]["lights"]) light["kit"] = "led";
  doc["kit"]["lights"][0].update({{"name", "Lamp, \"big\""}, {"price", 99.5}, {"hired", true}});
  return doc;
}

TEST(PackingTable, HasARowForEveryThingWithItsCountsAndPrice) {
  const Packing packed = packing(worlds::read(world()));
  const auto rows = packing_table(packed);
  ASSERT_EQ(rows.size(), packed.things.size() + 1);
  EXPECT_EQ(rows[0][0], "list");
  const auto lamp = std::find_if(rows.begin(), rows.end(), [](const CsvRow& r) { return r[1] == "led"; });
  ASSERT_NE(lamp, rows.end());
  EXPECT_EQ(*lamp,
            (CsvRow{"kit/lights", "led", "Lamp, \"big\"", "2", "1", "1", "", "1", "99.5", "yes", "on set-up A"}));
  for (const CsvRow& row : rows) EXPECT_EQ(row.size(), rows[0].size());
}

TEST(PackingTable, IsReadBackAsItWasWritten) {
  const auto rows = packing_table(packing(worlds::read(world())));
  const auto back = csv_read(csv_written(rows), "packing.csv");
  ASSERT_TRUE(back.has_value());
  ASSERT_EQ(back->size(), rows.size());
  for (std::size_t i = 0; i < rows.size(); ++i) EXPECT_EQ((*back)[i].fields, rows[i]) << i;
}

TEST(PackingTable, OfNothingIsItsHeadings) {
  EXPECT_EQ(packing_table({}).size(), 1u);
  EXPECT_EQ(csv_written(packing_table({})).substr(0, 8), "list,id,");
}

TEST(MeasuredBlob, ThatCannotBeReadLeavesTheLightItsOtherFigures) {
  Json doc = world();
  const std::string rubbish = "TILT=NONE\n1 2 3";
  doc["blobs"]["beam"] = {{"type", "application/x-ies"},
                          {"data", base64_encoded({rubbish.begin(), rubbish.end()})}};
  doc["kit"]["lights"][0]["ies"] = "beam";
  const auto faults = validate(doc);
  ASSERT_EQ(faults.size(), 2u) << "the blob itself, and the light that names it";
  EXPECT_EQ(faults[0].path, "/blobs/beam/data");
  EXPECT_EQ(faults[1].path, "/kit/lights/0/ies");
  ProjectReader reader;
  const Project project = reader.read(*Document::from_json(doc));
  ASSERT_EQ(project.unreadable.size(), 1u);
  EXPECT_NE(project.unreadable[0].find("line 2"), std::string::npos) << project.unreadable[0];
  ASSERT_TRUE(project.light_kits[0]->output.has_value());
  EXPECT_EQ(project.light_kits[0]->output->lumens, 6000) << "as the kit says";
  EXPECT_EQ(project.light_kits[0]->output->distribution, nullptr);
}

}  // namespace
}  // namespace cinnabar
