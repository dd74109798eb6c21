// Nothing lost, nothing hangs: what scripts may hand in by mistake or on purpose.
#include <sys/stat.h>

#include "cli_fixture.h"

namespace cinnabar::cli_tests {
namespace {

TEST_F(Cli, NeverWritesOverAProjectOrWhatItReads) {
  const std::string at = copied("own.cinnabar"), other = copied("other.cinnabar"), json = file("own.json");
  const std::string whole = text_of(at);
  ASSERT_EQ(run("export " + at + " --to json " + json).code, 0);
  const std::string exported = text_of(json);
  for (const std::string& out : {at, other, at + "-wal", at + "-journal"}) {
    const Answer answer = run("export " + at + " --to csv " + out);
    EXPECT_EQ(answer.code, 1) << out;
    EXPECT_NE(answer.err.find("nothing was written"), std::string::npos) << answer.err;
  }
  EXPECT_EQ(run("export " + json + " --to csv " + json).code, 1) << "nor over a project's JSON that it reads";
  EXPECT_EQ(run("export " + file("./own.json") + " --to csv " + json).code, 1);
  EXPECT_EQ(text_of(at), whole);
  EXPECT_EQ(text_of(other), whole);
  EXPECT_EQ(text_of(json), exported);
  fs::create_symlink(at, file("link.png"));
  EXPECT_EQ(run("render " + at + " --shot 1 --passes 1 --size 16x9 --out " + file("link.png")).code, 1);
  EXPECT_EQ(text_of(at), whole);
}

TEST_F(Cli, CutsLongTextsBetweenTwoLetters) {
  const std::string at = copied("long.cinnabar");
  std::string name = "x";
  for (int k = 0; k < 60; ++k) name += "\xC3\xA9";
  ASSERT_EQ(run("keep " + at + " before").code, 0);
  ASSERT_EQ(run("set " + at + " /shots/0/extra '[\"" + name + "\"]'").code, 0);
  const Answer compared = run("compare " + at + " 1 --json");
  EXPECT_EQ(compared.code, 0) << compared.err;
  EXPECT_EQ(compared.json()["differences"].size(), 1u);
  const Answer undone = run("undo " + at + " --json");
  EXPECT_EQ(undone.code, 0) << undone.err;
  EXPECT_NE(undone.json()["undone"].get<std::string>().find("..."), std::string::npos);
  EXPECT_TRUE(run("compare " + at + " 1 --json").json()["differences"].empty()) << "and it was undone";
}

TEST_F(Cli, RefusesWordsThatAreNoText) {
  const std::string at = copied("latin.cinnabar");
  for (const std::string& words :
       {std::string("keep FILE $'caf\\xe9'"), std::string("set FILE /project/name $'caf\\xe9'"),
        std::string("set FILE $'/project/caf\\xe9' 1")}) {
    std::string call = words;
    call.replace(call.find("FILE"), 4, at);
    const Answer answer = shell(call);
    EXPECT_EQ(answer.code, 2) << words;
    EXPECT_NE(answer.err.find("no UTF-8"), std::string::npos) << answer.err;
  }
  EXPECT_EQ(run("versions " + at + " --json").json()["versions"].size(), 0u);
}

TEST_F(Cli, BoundsHowDeepJsonMayBe) {
  const std::string at = copied("deep.cinnabar"), deep = file("deep.json");
  std::ofstream(deep) << std::string(100000, '[') << std::string(100000, ']');
  EXPECT_EQ(run("set " + at + " /project/notes \"$(head -c 60000 " + deep + ")\"").code, 2);
  EXPECT_EQ(run("validate " + deep).code, 3);
  EXPECT_EQ(run("import " + file("new.cinnabar") + " " + deep).code, 3);
  EXPECT_FALSE(fs::exists(file("new.cinnabar")));
  EXPECT_EQ(run("keep " + at + " still").code, 0);
}

TEST_F(Cli, ReadsTablesInTheEncodingsOfSpreadsheets) {
  const std::string at = copied("encoded.cinnabar");
  const auto log = [&](const std::string& name, const std::string& bytes) {
    std::ofstream(file(name), std::ios::binary) << bytes;
    return run("import " + at + " " + file(name) + " --json");
  };
  const Answer latin = log("latin.csv", "shot,number,kept,notes\ns1,501,yes,caf\xE9\n");
  EXPECT_EQ(latin.code, 0) << latin.err;
  EXPECT_NE(latin.err.find("windows-1252"), std::string::npos) << "what was taken for granted is said";
  std::string wide("\xFF\xFE", 2);
  for (const char c : std::string("shot,number,kept,notes\ns1,502,yes,caf")) wide += c, wide += '\0';
  wide += "\xE9";
  wide += '\0';
  EXPECT_EQ(log("wide.csv", wide).code, 0);
  const Answer mixed = log("mixed.csv", "shot,number,kept,notes\ns1,503,yes,caf\xC3\xA9\ns1,504,yes,caf\xE9\n");
  EXPECT_EQ(mixed.code, 1);
  EXPECT_EQ(mixed.json()["added"], 1) << "the good row is kept";
  EXPECT_NE(mixed.json()["faults"][0]["message"].get<std::string>().find("line 3"), std::string::npos);
  const Json takes = run("takes " + at + " --shot 1 --json").json()["shots"][0]["takes"];
  int found = 0;
  for (const Json& take : takes) found += take["number"] > 500 && take["notes"] == "caf\xC3\xA9" ? 1 : 0;
  EXPECT_EQ(found, 3);
}

TEST_F(Cli, WritesCellsThatNoSpreadsheetRuns) {
  const std::string at = copied("cells.cinnabar"), table = file("cells.csv");
  ASSERT_EQ(run("set " + at + " /shots/0/name '=HYPERLINK(\"x\")'").code, 0);
  ASSERT_EQ(run("export " + at + " --to csv " + table).code, 0);
  EXPECT_NE(text_of(table).find("\"'=HYPERLINK"), std::string::npos);
  EXPECT_EQ(run("import " + at + " " + table + " --json").json()["changed"], 0) << "read back as it was";
}

TEST_F(Cli, OpensNothingThatIsNoFile) {
  ASSERT_EQ(::mkfifo(file("pipe").c_str(), 0600), 0);
  for (const std::string& name : {file("pipe"), std::string("/dev/zero"), std::string(":memory:")}) {
    EXPECT_EQ(run("info " + name).code, 3) << name;
    EXPECT_EQ(run("validate " + name).code, 3) << name;
    EXPECT_EQ(run("import " + copied("p.cinnabar") + " " + name).code, 3) << name;
    EXPECT_EQ(run("mesh " + copied("p.cinnabar") + " " + name + " --unit mm").code, 3) << name;
  }
}

TEST_F(Cli, TellsOfDamagedPictures) {
  const std::string at = copied("picture.cinnabar"), json = file("picture.json");
  ASSERT_EQ(run("export " + at + " --to json " + json).code, 0);
  Json doc = Json::parse(text_of(json));
  std::string& data = doc["blobs"]["label"]["data"].get_ref<std::string&>();
  data[data.size() / 2] = data[data.size() / 2] == 'A' ? 'B' : 'A';
  std::ofstream(json) << doc;
  const Answer answer = run("validate " + json + " --json");
  EXPECT_EQ(answer.code, 1);
  bool named = false;
  const Json told = answer.json();
  for (const Json& fault : told["faults"]) named = named || fault["path"] == "/blobs/label/data";
  EXPECT_TRUE(named) << answer.out;
  EXPECT_EQ(run("import " + file("made.cinnabar") + " " + json).code, 1);
}

/// A project and its JSON with odd beginnings: what one call reads, all read.
TEST_F(Cli, ValidatesWhateverTheOthersRead) {
  const std::string json = file("odd.json");
  ASSERT_EQ(run("export " + demo() + " --to json " + json).code, 0);
  Json one = Json::parse(text_of(json));  // a shot is enough
  one["shots"] = Json::array({one["shots"][0]});
  one["takes"] = Json::array();
  const std::string plain = one.dump(1);
  std::string wide("\xFF\xFE", 2);
  for (const char c : plain) {
    if (c & 0x80) continue;
    wide += c;
    wide += '\0';
  }
  for (const std::string& text : {plain, "\xEF\xBB\xBF" + plain, std::string(300, '\n') + plain, wide}) {
    std::ofstream(json, std::ios::binary) << text;
    EXPECT_EQ(run("info " + json + " --json").code, 0);
    EXPECT_EQ(run("validate " + json).code, 0);
  }
  std::ofstream(json) << "[1, 2]";
  EXPECT_EQ(run("validate " + json).code, 1) << "JSON, but no project";
  EXPECT_EQ(run("info " + json).code, 3);
  std::ofstream(json) << "just words";
  EXPECT_EQ(run("validate " + json).code, 3);
  EXPECT_EQ(run("import " + demo() + " " + json + " --take both").code, 2) << "arguments come first";
  EXPECT_EQ(run("import " + demo() + " /no/such/file --take both").code, 2);
}

TEST_F(Cli, CarriesNoPathOfItsBuild) {
  const std::string program = text_of(CINNABAR_CLI);
  EXPECT_EQ(program.find(CINNABAR_SOURCE), std::string::npos);
}

}  // namespace
}  // namespace cinnabar::cli_tests
