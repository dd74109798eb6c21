// What validation refuses, row by row, with its place and its mend.
#include <set>

#include "refusals.h"

namespace cinnabar {
namespace {

TEST(FullDocument, IsValid) {
  for (const auto& f : validate(refusals::full())) ADD_FAILURE() << f.path << " " << f.message;
}

class Refused : public testing::TestWithParam<refusals::Row> {};
TEST_P(Refused, IsReportedAtItsPlace) {
  Json doc = refusals::full();
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  const std::string where = GetParam().where ? GetParam().where : GetParam().pointer;
  bool found = false;
  std::set<std::pair<std::string, std::string>> told;
  for (const DocumentFault& f : validate(doc)) {
    found = found || (f.path == where && !f.mend.empty());
    EXPECT_TRUE(told.emplace(f.path, f.message).second) << f.path << " " << f.message << " is told twice";
  }
  EXPECT_TRUE(found) << where << " = " << GetParam().value;
}
INSTANTIATE_TEST_SUITE_P(Table, Refused, testing::ValuesIn(refusals::table()));

class LetThrough : public testing::TestWithParam<refusals::Good> {};
TEST_P(LetThrough, IsNoFault) {
  Json doc = refusals::full();
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  for (const DocumentFault& f : validate(doc)) ADD_FAILURE() << f.path << " " << f.message;
}
INSTANTIATE_TEST_SUITE_P(Table, LetThrough, testing::ValuesIn(refusals::good()));

}  // namespace
}  // namespace cinnabar
