// The schema of the project document, by an independent validator: what it lets through and what it refuses.
#include "cinnabar/project/checks/schema.h"

#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>

#include "cinnabar/base/files.h"
#include "refusals.h"

namespace cinnabar {
namespace {

bool schema_lets_through(const Json& document) {
  using valijson::adapters::NlohmannJsonAdapter;
  static const Json text = Json::parse(project_schema().dump());
  static const auto schema = [] {
    auto made = std::make_unique<valijson::Schema>();
    valijson::SchemaParser(valijson::SchemaParser::kDraft7).populateSchema(NlohmannJsonAdapter(text), *made);
    return made;
  }();
  return valijson::Validator().validate(*schema, NlohmannJsonAdapter(document), nullptr);
}

TEST(Schema, IsWhatStandsInTheDocumentation) {
  const auto file = read_file(std::string(CINNABAR_SOURCE) + "/docs/project.schema.json");
  ASSERT_TRUE(file);
  EXPECT_EQ(*file, project_schema().dump(1) + "\n") << "cinnabar-cli schema > docs/project.schema.json";
}

TEST(Schema, LetsAFullDocumentThroughAndWhatMayBeLeftOutMayBeNull) {
  EXPECT_TRUE(schema_lets_through(refusals::full()));
  Json doc = refusals::full();
  doc["setups"][0]["lights"][0]["name"] = nullptr;
  doc["setups"][0]["surface"] = nullptr;
  doc["shots"][0]["size"] = nullptr;
  doc["kit"]["lenses"][0]["close_focus"] = nullptr;
  EXPECT_TRUE(validate(doc).empty());
  EXPECT_TRUE(schema_lets_through(doc));
}

class SchemaRefused : public testing::TestWithParam<refusals::Row> {};
TEST_P(SchemaRefused, WhatASchemaCanSay) {
  Json doc = refusals::full();
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  EXPECT_EQ(schema_lets_through(doc), GetParam().beyond_a_schema)
      << GetParam().pointer << " = " << GetParam().value;
}
INSTANTIATE_TEST_SUITE_P(Table, SchemaRefused, testing::ValuesIn(refusals::table()));

class SchemaLets : public testing::TestWithParam<refusals::Good> {};
TEST_P(SchemaLets, WhatIsNoFault) {
  Json doc = refusals::full();
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  EXPECT_TRUE(schema_lets_through(doc)) << GetParam().pointer << " = " << GetParam().value;
}
INSTANTIATE_TEST_SUITE_P(Table, SchemaLets, testing::ValuesIn(refusals::good()));

}  // namespace
}  // namespace cinnabar
