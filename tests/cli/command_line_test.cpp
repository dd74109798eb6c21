// cinnabar-cli as a script sees it: answers, exit codes, and messages that name the place and the mend.
#include "cli_fixture.h"

namespace cinnabar::cli_tests {
namespace {

TEST_F(Cli, InfoCountsTheDemo) {
  const Json info = run("info " + demo() + " --json").json();
  EXPECT_EQ(info["name"], "Slow Burn");
  EXPECT_EQ(info["allowed_time"], 20.0);
  EXPECT_EQ(info["takes"], 30);
  ASSERT_EQ(info["shots"].size(), 8u);
  int level = 0, leaning = 0, out = 0;
  for (const Json& s : info["shots"])
    level += s["level"].get<int>(), leaning += s["leaning"].get<int>(), out += s["out"].get<int>();
  EXPECT_GE(level, 200);
  EXPECT_GE(leaning, 2);
  EXPECT_LE(leaning, 13);
  EXPECT_EQ(out, 3);
}

TEST_F(Cli, EveryLeverOfAShotThatIsOutBringsItsLevelHome) {
  int levers = 0;
  for (const int number : {4, 6}) {
    const Json shot = run("forecast " + demo() + " --json --shot " + std::to_string(number)).json()["shots"][0];
    EXPECT_EQ(shot["number"], number);
    for (const Json& level : shot["levels"]) {
      for (const char* key : {"id", "title", "value", "unit", "low", "high", "state", "sentence", "formula",
                              "source", "set_time", "levers"})
        EXPECT_TRUE(level.contains(key)) << key;
      EXPECT_TRUE(level["state"] == "level" || !level["levers"].empty() ||
                  !level["no_lever"].get<std::string>().empty());
      for (const Json& lever : level["levers"]) {
        EXPECT_EQ(lever["state_after"], "level") << lever;
        ++levers;
      }
      if (level["state"] != "out") continue;
      ASSERT_FALSE(level["levers"].empty()) << level["id"];
      const std::string at = copied("lever.cinnabar");
      const Json applied = run("lever " + at + " --shot " + std::to_string(shot["number"].get<int>()) +
                               " --level " + level["id"].get<std::string>() + " --take 1 --json")
                               .json();
      EXPECT_EQ(applied["before"]["state"], "out");
      EXPECT_EQ(applied["after"]["state"], "level");
      EXPECT_NEAR(applied["after"]["value"].get<double>(), level["levers"][0]["after"].get<double>(), 1e-6);
      EXPECT_EQ(run("undo " + at).code, 0);
      const Json undone = run("forecast " + at + " --json --shot " + std::to_string(shot["number"].get<int>()) +
                              " --level " + level["id"].get<std::string>())
                              .json();
      EXPECT_EQ(undone["shots"][0]["levels"][0]["value"], level["value"]);
    }
  }
  EXPECT_GE(levers, 8);
}

TEST_F(Cli, SetsUndoesAndRedoesOneValue) {
  const std::string at = copied("set.cinnabar");
  EXPECT_EQ(run("set " + at + " /shots/0/camera/iso 500").code, 0);
  EXPECT_EQ(run("set " + at + " /project/notes plain words").code, 2);
  EXPECT_EQ(run("set " + at + " /project/notes 'plain words'").code, 0);
  EXPECT_EQ(run("undo " + at + " --json").json()["undone"], "/project/notes set to \"plain words\"");
  EXPECT_EQ(run("redo " + at).code, 0);
  EXPECT_EQ(run("export " + at + " --to json " + file("set.json")).code, 0);
  const Json out = Json::parse(text_of(file("set.json")));
  EXPECT_EQ(out["shots"][0]["camera"]["iso"], 500);
  EXPECT_EQ(out["project"]["notes"], "plain words");
  const Answer refused = run("set " + at + " /shots/0/camera/iso -5");
  EXPECT_EQ(refused.code, 2);
  EXPECT_NE(refused.err.find("/shots/0/camera/iso"), std::string::npos);
  EXPECT_EQ(run("set " + at + " /nothing/here 1").code, 2);
}

TEST_F(Cli, ExportAndImportAreInverses) {
  ASSERT_EQ(run("export " + demo() + " --to json " + file("a.json")).code, 0);
  ASSERT_EQ(run("import " + file("b.cinnabar") + " " + file("a.json")).code, 0);
  ASSERT_EQ(run("export " + file("b.cinnabar") + " --to json " + file("b.json")).code, 0);
  EXPECT_EQ(text_of(file("a.json")), text_of(file("b.json")));
  EXPECT_EQ(run("validate " + file("a.json") + " --json").json()["ok"], true);
}

TEST_F(Cli, AnImportThatFailsLeavesNoFile) {
  Json doc = Json::parse(text_of(file("a.json")).empty() ? "{}" : text_of(file("a.json")));
  doc["shots"] = 3;
  std::ofstream(file("bad.json")) << doc.dump();
  EXPECT_EQ(run("import " + file("new.cinnabar") + " " + file("bad.json")).code, 1);
  EXPECT_FALSE(fs::exists(file("new.cinnabar")));
  std::ofstream(file("cut.json")) << "{\"format\": ";
  EXPECT_EQ(run("import " + file("new.cinnabar") + " " + file("cut.json")).code, 3);
  EXPECT_FALSE(fs::exists(file("new.cinnabar")));
  EXPECT_EQ(run("validate " + file("bad.json")).code, 1);
  EXPECT_EQ(run("validate " + file("cut.json")).code, 3);
}

TEST_F(Cli, MeterAddsUpAndSolos) {
  const Json reading = run("meter " + demo() + " --shot 1 --point 0,0.05,0.04 --normal 0,0,1 --json").json();
  double sum = 0;
  for (const auto& [id, lux] : reading["by_light"].items()) sum += lux.get<double>();
  EXPECT_NEAR(sum, reading["illuminance_lx"].get<double>(), 1e-6 * sum);
  EXPECT_NEAR(reading["luminance"].get<double>() * 3.14159265, sum, 1e-5 * sum);
  const Json solo =
      run("meter " + demo() + " --shot 1 --point 0,0.05,0.04 --normal 0,0,1 --solo key --json").json();
  EXPECT_EQ(solo["illuminance_lx"], reading["by_light"]["key"]);
  EXPECT_EQ(run("meter " + demo() + " --shot 1 --point -0.1,0.05,0.04 --normal 0,0,1").code, 0);
}

TEST_F(Cli, RendersPngAndExr) {
  const Json png =
      run("render " + demo() + " --shot 2 --out " + file("p.png") + " --size 64x36 --passes 2 --json").json();
  EXPECT_EQ(png["passes"], 2);
  EXPECT_GT(png["rays"].get<double>(), 64 * 36 * 2);
  EXPECT_EQ(text_of(file("p.png")).substr(1, 3), "PNG");
  EXPECT_GT(png["error"].get<double>(), 0);
  EXPECT_LT(png["error"].get<double>(), 2);
  ASSERT_EQ(run("render " + demo() + " --shot 2 --out " + file("all.exr") + " --size 64x36 --passes 1").code, 0);
  const std::string layered = text_of(file("all.exr"));
  for (const char* channel : {"key.R", "glow.G", "ambient.B"})
    EXPECT_NE(layered.find(channel), std::string::npos) << channel;
  EXPECT_EQ(
      run("render " + demo() + " --shot 2 --out " + file("p.exr") + " --size 64x36 --passes 1 --layer key").code,
      0);
  EXPECT_EQ(text_of(file("p.exr")).substr(0, 4), "\x76\x2f\x31\x01");  // OpenEXR's magic number
  EXPECT_EQ(run("render " + demo() + " --shot 2 --out /no/such/folder/p.png --size 16x9 --passes 1").code, 1);
}

TEST_F(Cli, PinsAreReadAndALightMadeToFitThem) {
  const std::string path = copied("pins.cinnabar");
  const auto none = run("pins " + path + " --shot 1 --json");
  ASSERT_EQ(none.code, 0) << none.err;
  EXPECT_TRUE(none.json().at("pins").empty());
  const std::string pins = R"('[{"id":"a","name":"Front","at":[0,0.08,0.06],"normal":[0,0,1]},)"
                           R"({"id":"b","at":[0.3,0.3,0.3],"measured":{"illuminance_lx":500}}]')";
  ASSERT_EQ(run("set " + path + " /setups/0/pins " + pins).code, 0);
  const auto read = run("pins " + path + " --shot 1 --json").json().at("pins");
  ASSERT_EQ(read.size(), 2u);
  double sum = 0;
  for (const auto& [id, lux] : read[0].at("by_light").items()) sum += lux.get<double>();
  EXPECT_NEAR(sum, read[0].at("illuminance_lx").get<double>(), 1e-6 * sum);
  EXPECT_GT(sum, 1.0);
  EXPECT_TRUE(read[0].at("measured_lx").is_null());
  EXPECT_EQ(read[1].at("measured_lx").get<double>(), 500);
  EXPECT_TRUE(read[1].at("off_stops").is_number());
  EXPECT_NE(run("pins " + path + " --shot 1").out.find("Front"), std::string::npos);
  const Json lights = run("export " + path + " --to json " + file("pins.json")).code == 0
                          ? Json::parse(text_of(file("pins.json"))).at("setups").at(0).at("lights")
                          : Json::array();
  ASSERT_FALSE(lights.empty());
  const std::string light = lights[0].at("id");
  const auto found = run("calibrate " + path + " --shot 1 --light " + light + " --json");
  ASSERT_EQ(found.code, 0) << found.err;
  EXPECT_EQ(found.json().at("residuals").size(), 1u);
  EXPECT_NEAR(found.json().at("residuals")[0].at("after_lx").get<double>(), 500, 5);
  EXPECT_EQ(run("calibrate " + path + " --shot 1 --take --light " + light).code, 0);
  EXPECT_NEAR(run("pins " + path + " --shot 1 --json").json().at("pins")[1].at("illuminance_lx").get<double>(),
              500, 5);
  EXPECT_EQ(run("undo " + path).code, 0);
  for (const char* bad : {"--light nobody", "--light", "--light key --at 99", "--light key --at nan"})
    EXPECT_EQ(run("calibrate " + path + " --shot 1 " + bad).code, 2) << bad;
  EXPECT_EQ(run("pins " + path + " --shot 1 --at -1").code, 2);
  EXPECT_EQ(run("pins " + file("none.cinnabar") + " --shot 1").code, 3);
}

TEST_F(Cli, WishesAreAnsweredTakenAndRefused) {
  const std::string path = copied("wish.cinnabar");
  const auto asked = run("wish " + path + " --shot 1 --want stripe at=0.5 width=9 --json");
  ASSERT_EQ(asked.code, 0) << asked.err;
  const Json answers = asked.json().at("answers");
  ASSERT_FALSE(answers.empty());
  for (const Json& one : answers) {
    EXPECT_TRUE(one.at("met").get<bool>());
    EXPECT_NEAR(one.at("value").get<double>(), 9, 1.3);
    EXPECT_FALSE(one.at("changes").empty());
    EXPECT_FALSE(one.at("levels").empty());
  }
  EXPECT_TRUE(asked.json().at("impossible").is_null());
  EXPECT_EQ(run("wish " + path + " --shot 1 --want stripe at=0.5 width=9 --take 1").code, 0);
  const auto again = run("wish " + path + " --shot 1 --want stripe at=0.5 width=9 --json").json();
  EXPECT_TRUE(again.at("answers").at(0).at("changes").empty()) << "it is so already";
  EXPECT_EQ(run("undo " + path).code, 0);  // one edit
  EXPECT_EQ(run("export " + path + " --to json " + file("undone.json")).code, 0);
  EXPECT_EQ(run("export " + demo() + " --to json " + file("demo.json")).code, 0);
  EXPECT_EQ(text_of(file("undone.json")), text_of(file("demo.json")));
  const auto never = run("wish " + path + " --shot 1 --want stripe at=0.3 width=55 --json");
  EXPECT_EQ(never.code, 0);
  EXPECT_TRUE(never.json().at("answers").empty());
  EXPECT_FALSE(never.json().at("impossible").at("why").get<std::string>().empty());
  for (const char* bad : {"--want", "--want at=3", "--want wings", "--want stripe at=0.5", "--want soft mm=nan",
                          "--want soft mm=8 --want", "--want soft mm=8 --take 9", "--want no-mirror at=9,9,9"})
    EXPECT_EQ(run("wish " + path + " --shot 1 " + bad).code, 2) << bad;
  EXPECT_EQ(run("wish " + path + " --shot 99 --want soft mm=8").code, 2);
  EXPECT_EQ(run("wish " + file("none.cinnabar") + " --shot 1 --want soft mm=8").code, 3);
}

// The key shines back from the shoulder of the demo's jar, right of the middle.
TEST_F(Cli, TheDemosMirroredKeyIsMendedByAWish) {
  const std::string path = copied("mirrored.cinnabar");
  const std::string wish = "wish " + path + " --shot 3 --want no-mirror at=0.013,0.085,0.0357";
  const Json answers = run(wish + " --json").json().at("answers");
  ASSERT_FALSE(answers.empty());
  for (const Json& one : answers) {
    EXPECT_FALSE(one.at("changes").empty()) << "it is not so yet";
    EXPECT_NE(one.at("title").get<std::string>().find("Key"), std::string::npos) << one.at("title");
  }
  EXPECT_EQ(run(wish + " --take 1").code, 0);
  const Json again = run(wish + " --json").json().at("answers");
  ASSERT_EQ(again.size(), 1u);
  EXPECT_EQ(again[0].at("title"), "It is so already");
}

TEST_F(Cli, StopsAreFoundSetAndRefused) {
  const std::string path = copied("stops.cinnabar");
  const auto found = run("stops " + path + " --shot 3 --pin nd --json");
  ASSERT_EQ(found.code, 0) << found.err;
  const Json answers = found.json().at("answers");
  ASSERT_FALSE(answers.empty());
  for (const Json& one : answers) {
    EXPECT_EQ(one.at("nd_stops"), 0);
    for (const Json& level : one.at("levels"))
      if (level.at("id") == "camera.stops") {
        EXPECT_NE(level.at("state"), "out");
      }
  }
  ASSERT_EQ(run("stops " + path + " --shot 3 --pin nd --take 1").code, 0);
  EXPECT_EQ(run("export " + path + " --to json " + file("stops.json")).code, 0);
  EXPECT_EQ(Json::parse(text_of(file("stops.json")))["shots"][2]["camera"]["iso"], answers[0].at("iso"));
  EXPECT_EQ(run("stops " + path + " --shot 3 --pin bokeh").code, 2);
  EXPECT_EQ(run("stops " + path + " --shot 3 --take 99").code, 2);
}

// Only own behaviour is held here.
TEST_F(Cli, MovesAreSolvedTakenAndWrittenAsPrograms) {
  const std::string path = copied("solve.cinnabar");
  const auto found = run("solve " + path + " --shot 1 centred --json");
  ASSERT_EQ(found.code, 0) << found.err;
  const Json answers = found.json().at("answers");
  ASSERT_FALSE(answers.empty());
  EXPECT_TRUE(found.json().at("impossible").is_null());
  EXPECT_EQ(answers[0].at("changes")[0].at("pointer"), "/shots/0/tracks");
  EXPECT_FALSE(answers[0].at("levels").empty());
  ASSERT_EQ(run("solve " + path + " --shot 1 centred --take 1").code, 0);
  EXPECT_EQ(run("export " + path + " --to json " + file("solve.json")).code, 0);
  EXPECT_EQ(Json::parse(text_of(file("solve.json")))["shots"][0]["tracks"],
            answers[0].at("changes")[0].at("value"));
  const auto stands = run("solve " + path + " --shot 6 loop --json");
  ASSERT_EQ(stands.code, 0);
  EXPECT_TRUE(stands.json().at("answers").empty());
  EXPECT_NE(stands.json().at("impossible").get<std::string>().find("rpm"), std::string::npos);
  EXPECT_EQ(run("solve " + path + " --shot 1 waltz").code, 2);
  EXPECT_EQ(run("solve " + path + " --shot 1 spin turns=nan").code, 2);
  // A shot's program, and the cards of all.
  ASSERT_EQ(run("export " + path + " --to gcode --shot 1 " + file("one.ngc")).code, 0);
  EXPECT_NE(text_of(file("one.ngc")).find("G93"), std::string::npos);
  EXPECT_EQ(run("export " + path + " --to gcode " + file("none.ngc")).code, 2) << "of which shot?";
  EXPECT_EQ(run("export " + path + " --to gcode --shot 3 " + file("none.ngc")).code, 2) << "nothing moves in it";
  const auto cues = run("export " + path + " --to cues --shot 3 " + file("cues.wav") + " --json");
  ASSERT_EQ(cues.code, 0) << cues.err;
  EXPECT_EQ(text_of(file("cues.wav")).substr(0, 4), "RIFF");
  EXPECT_EQ(cues.json().at("cues").front().at("what"), "count 1");
  EXPECT_NE(cues.json().at("cues").dump().find("lands"), std::string::npos) << "the pour's moments are heard";
  EXPECT_EQ(run("export " + path + " --to cues " + file("cues.wav")).code, 2) << "of which shot?";
  ASSERT_EQ(run("export " + path + " --to settings " + file("cards.txt")).code, 0);
  EXPECT_NE(text_of(file("cards.txt")).find("Shot 8, "), std::string::npos);
  EXPECT_NE(run("export " + path + " --to settings " + path).code, 0) << "never over the project itself";
}

// Source: the drop's moments by free fall from 0.2 m onto the lid at 0.104 m; the rest is own behaviour.
TEST_F(Cli, EffectsAreToldWithTheirMomentsAndCautions) {
  const std::string path = copied("effects.cinnabar");
  ASSERT_EQ(run("set " + path +
                " /shots/4/effects '[{\"id\": \"d\", \"kind\": \"drop\", \"at\": 0.05, \"place\": "
                "[0, 0.2, 0], \"diameter\": 0.004}]'")
                .code,
            0);
  const auto told = run("effects " + path + " --shot 5 --at 0.1 --json");
  ASSERT_EQ(told.code, 0) << told.err;
  const Json drop = told.json().at("effects").at(0);
  EXPECT_EQ(drop.at("kind"), "drop");
  const double falls =
      drop.at("events").at("contact").get<double>() - drop.at("events").at("release").get<double>();
  EXPECT_NEAR(falls, std::sqrt(2 * (0.2 - 0.104 - 0.002) / 9.80665), 1e-3);
  for (const char* key : {"id", "numbers", "uses", "hands", "reset_minutes", "cautions", "bodies"})
    EXPECT_TRUE(drop.contains(key)) << key;
  EXPECT_EQ(drop.at("bodies").size(), 1u);
  EXPECT_FALSE(drop.at("cautions").empty());
  const auto pour = run("effects " + path + " --shot 3");
  EXPECT_NE(pour.out.find("coil_hz"), std::string::npos) << pour.out;
  EXPECT_NE(pour.out.find("! "), std::string::npos) << "what can hurt is told";
  EXPECT_EQ(run("effects " + path + " --shot 1 --json").json().at("effects").size(), 0u);
  EXPECT_EQ(run("effects " + path + " --shot 5 --at soon").code, 2);
  EXPECT_EQ(run("effects " + path + " --shot 99").code, 2);
  // Every form has its name and its size: a crown while it stands.
  const std::string tumbler =
      R"({"id": "cup", "name": "Cup", "mass": 0.2, "parts": [{"id": "wall", "wall": 0.002, "profile": [[0, 0], )"
      R"([0.04, 0], [0.04, 0.1]], "material": {"kind": "glass"}}, {"id": "drink", "profile": [[0, 0.002], )"
      R"([0.038, 0.002], [0.038, 0.07], [0, 0.07]], "material": {"kind": "liquid"}}]})";
  ASSERT_EQ(run("set " + path + " /products/- '" + tumbler + "'").code, 0);
  ASSERT_EQ(run("set " + path + " /shots/3/products '[{\"product\": \"cup\", \"place\": [0.2, 0, 0.1]}]'").code,
            0);
  ASSERT_EQ(run("set " + path +
                " /shots/3/effects '[{\"id\": \"s\", \"kind\": \"splash\", \"at\": 0, \"place\": "
                "[0.2, 0.3, 0.1], \"diameter\": 0.01, \"mass\": 0.0006}]'")
                .code,
            0);
  const Json splash = run("effects " + path + " --shot 4 --json").json().at("effects").at(0);
  const double opens = splash.at("events").at("opens");
  const Json there = run("effects " + path + " --shot 4 --json --at " + std::to_string(opens)).json();
  int crowns = 0;
  for (const Json& body : there.at("effects").at(0).at("bodies"))
    if (body.at("form") == "turned") {
      ++crowns;
      EXPECT_GT(body.at("size").get<double>(), 0.01);
    }
  EXPECT_EQ(crowns, 1);
  // Fire is named and never planned.
  ASSERT_EQ(run("set " + path + " /shots/0/effects '[{\"id\": \"f\", \"kind\": \"flame\"}]'").code, 0);
  const auto fire = run("effects " + path + " --shot 1 --json");
  EXPECT_NE(fire.json().at("effects").at(0).at("impossible").get<std::string>().find("not planned"),
            std::string::npos);
}

TEST_F(Cli, MethodsAreListedAndSetUp) {
  const std::string path = copied("method.cinnabar");
  const auto listed = run("method " + path + " --shot 3 --list --json");
  ASSERT_EQ(listed.code, 0) << listed.err;
  const Json methods = listed.json().at("methods");
  ASSERT_GE(methods.size(), 2u);
  EXPECT_LE(methods.size(), 3u);
  EXPECT_EQ(methods[0].at("id"), "bright-field") << "glass under the rule white";
  EXPECT_NE(methods[0].at("for").get<std::string>().find("glass"), std::string::npos);
  EXPECT_FALSE(methods[0].at("levels").empty());
  ASSERT_EQ(run("method " + path + " --shot 3 --name bright-field --take 1").code, 0);
  EXPECT_EQ(run("validate " + path).code, 0);
  const auto level =
      run("forecast " + path + " --shot 3 --level light.even --json").json().at("shots")[0].at("levels")[0];
  EXPECT_EQ(level.at("state"), methods[0].at("levels")[1].at("state")) << level.dump();
  EXPECT_EQ(run("undo " + path).code, 0);
  EXPECT_EQ(run("method " + path + " --shot 3 --name hovering").code, 2);
  EXPECT_EQ(run("method " + path + " --shot 3 --name bright-field --take 7").code, 2);
}

TEST_F(Cli, ASetUpIsVariedAndAChangeSaysWhatItTouches) {
  const std::string path = copied("vary.cinnabar");
  const auto varied = run("vary " + path + " --shot 7 --name Dusk --json");
  ASSERT_EQ(varied.code, 0) << varied.err;
  EXPECT_EQ(varied.json().at("of"), "A");
  EXPECT_EQ(varied.json().at("name"), "Dusk");
  const auto touched = run("touches " + path + " /setups/0/lights/0/dimmer 0.225 --json");
  ASSERT_EQ(touched.code, 0) << touched.err;
  std::vector<int> shots;
  const Json list = touched.json().at("shots");
  for (const Json& one : list) shots.push_back(one.at("shot"));
  EXPECT_EQ(shots, (std::vector<int>{1, 2, 7, 8})) << "the variation goes along";
  EXPECT_EQ(run("compare " + path + " 1").code, 2) << "nothing was kept";
  ASSERT_EQ(run("set " + path + " /setups/1/lights/0/dimmer 0.5").code, 0);
  EXPECT_EQ(run("touches " + path + " /setups/0/lights/0/dimmer 0.225 --json").json().at("shots").size(), 3u);
  EXPECT_EQ(run("touches " + path + " /shots/0/camera/iso 400 --json").json().at("shots").size(), 0u);
  EXPECT_EQ(run("touches " + path + " /setups/0/lights/0/dimmer 3").code, 2);
  EXPECT_EQ(run("vary " + path + " --shot 70").code, 2);
}

TEST_F(Cli, TakesTellWhatChanged) {
  const Json takes = run("takes " + demo() + " --shot 3 --json").json()["shots"][0];
  EXPECT_EQ(takes["tried"], 8);
  EXPECT_EQ(takes["takes"][4]["changed"], Json({"ISO 1000 to 1250"}));
  EXPECT_EQ(takes["takes"][1]["changed"], Json::array());
  EXPECT_TRUE(takes["expected"].is_number());
}

TEST_F(Cli, VersionsAreKeptComparedAndGoneBackTo) {
  const std::string at = copied("versions.cinnabar");
  EXPECT_EQ(run("keep " + at + " 'before the client' --json").json()["number"], 1);
  EXPECT_EQ(run("set " + at + " /shots/0/camera/iso 500").code, 0);
  const Json differs = run("compare " + at + " 1 --json").json()["differences"];
  ASSERT_EQ(differs.size(), 1u);
  EXPECT_EQ(differs[0], "Shot Hero reveal: camera/iso 500, was 160");
  EXPECT_EQ(run("back " + at + " 1 --json").json()["back_to"], "before the client");
  EXPECT_TRUE(run("compare " + at + " 1 --json").json()["differences"].empty());
  EXPECT_EQ(run("undo " + at + " --json").json()["undone"], "Back to before the client");
  EXPECT_EQ(run("versions " + at + " --json").json()["versions"].size(), 1u);
  EXPECT_EQ(run("compare " + at + " 2").code, 2);
  EXPECT_EQ(run("back " + at + " 0").code, 2);
  EXPECT_EQ(run("keep " + at + " ' '").code, 2);
}

TEST_F(Cli, TakesGoOutAsATableAndComeBack) {
  const std::string at = copied("table.cinnabar"), table = file("takes.csv");
  ASSERT_EQ(run("export " + at + " --to takes-csv " + table).code, 0);
  const Json same = run("import " + at + " " + table + " --json").json();
  EXPECT_EQ(same["added"], 0);
  EXPECT_EQ(same["changed"], 0);
  std::ofstream(table, std::ios::app) << "s1,,77,,yes,,typed at the desk\r\ns99,,1,,yes,,\r\n";
  const Answer read = run("import " + at + " " + table + " --json");
  EXPECT_EQ(read.code, 1) << "one line names no shot";
  EXPECT_EQ(read.json()["added"], 1);
  EXPECT_NE(read.err.find("s99"), std::string::npos) << read.err;
  EXPECT_EQ(run("takes " + at + " --shot 1 --json").json()["shots"][0]["tried"], 5);
  ASSERT_EQ(run("export " + at + " --to csv " + file("shots.csv")).code, 0);
  EXPECT_EQ(text_of(file("shots.csv")).rfind("number,id,name", 0), 0u);
}

TEST_F(Cli, TheSpotsOwnLevelHasLevers) {
  const std::string at = copied("spot.cinnabar");
  EXPECT_EQ(run("forecast " + at + " --level spot.length --json").json()["spot"]["levels"][0]["state"], "level");
  EXPECT_EQ(run("set " + at + " /shots/0/screen_time 4.0").code, 0);
  const Json level = run("forecast " + at + " --level spot.length --json").json()["spot"]["levels"][0];
  EXPECT_EQ(level["state"], "out");
  EXPECT_NEAR(level["value"].get<double>(), 0.875 * 24, 1e-6);
  ASSERT_FALSE(level["levers"].empty());
  const Json applied = run("lever " + at + " --level spot.length --take 1 --json").json();
  EXPECT_EQ(applied["after"]["state"], "level");
  EXPECT_EQ(run("lever " + at + " --shot 1 --level spot.length --take 1").code, 2);
  EXPECT_EQ(run("lever " + at + " --level camera.iso --take 1").code, 2);
}

TEST_F(Cli, ShotsComeFromWordsAndTablesJoinedById) {
  const std::string at = copied("shots.cinnabar"), words = file("list.txt"), table = file("shots.csv");
  const auto shots = [&] {  // what stands in the project
    EXPECT_EQ(run("export " + at + " --to json " + file("now.json")).code, 0);
    return Json::parse(text_of(file("now.json")))["shots"];
  };
  std::ofstream(words) << "Opening, wide, 2 s\nToo long, 400 mm\n";
  const Answer read = run("import " + at + " " + words + " --json");
  EXPECT_EQ(read.code, 1) << "one line could not be read";
  EXPECT_EQ(read.json()["added"], 1);
  EXPECT_EQ(read.json()["faults"][0]["message"], "line 2: no lens of the kit is 400 mm");
  EXPECT_EQ(shots().size(), 9u);
  ASSERT_EQ(run("undo " + at).code, 0);
  ASSERT_EQ(run("export " + at + " --to csv " + table).code, 0);
  EXPECT_EQ(run("import " + at + " " + table + " --json").json()["changed"], 0) << "nothing was changed";
  std::string text = text_of(table);
  text.replace(text.find("Steam rise"), 10, "Steam rises");
  std::ofstream(table) << text;
  EXPECT_EQ(run("import " + at + " " + table + " --json").json()["changed"], 1);
  EXPECT_EQ(shots()[6]["name"], "Steam rises");
  // Both sides: told, left alone, and taken when asked.
  ASSERT_EQ(run("undo " + at).code, 0);
  ASSERT_EQ(run("set " + at + " /shots/6/camera/iso 850").code, 0);
  const Answer both = run("import " + at + " " + table + " --json");
  EXPECT_EQ(both.code, 1);
  EXPECT_EQ(both.json()["conflicts"].size(), 2u) << both.out;
  EXPECT_EQ(shots()[6]["name"], "Steam rise");
  EXPECT_EQ(run("import " + at + " " + table + " --take theirs").code, 0);
  EXPECT_EQ(shots()[6]["name"], "Steam rises");
  EXPECT_EQ(run("import " + at + " " + table + " --take both").code, 2);
}

TEST_F(Cli, ShotsGoOutAsJsonAndAreMergedBack) {
  const std::string at = copied("merge.cinnabar"), out = file("shots.json");
  ASSERT_EQ(run("export " + at + " --to shots-json " + out).code, 0);
  EXPECT_EQ(run("import " + at + " " + out + " --json").json()["changed"], 0);
  Json shots = Json::parse(text_of(out));
  shots["shots"][2]["name"] = "Theirs";
  shots["shots"][3]["notes"] = "from there";
  std::ofstream(out) << shots;
  ASSERT_EQ(run("set " + at + " /shots/2/name Mine").code, 0);
  const Answer both = run("import " + at + " " + out + " --json");
  EXPECT_EQ(both.code, 1);
  EXPECT_EQ(both.json()["changed"], 1);
  ASSERT_EQ(both.json()["conflicts"].size(), 1u);
  EXPECT_EQ(both.json()["conflicts"][0]["mine"], "Mine");
  EXPECT_EQ(run("import " + at + " " + out + " --take theirs").code, 0);
  ASSERT_EQ(run("export " + at + " --to json " + file("after.json")).code, 0);
  const Json after = Json::parse(text_of(file("after.json")))["shots"];
  EXPECT_EQ(after[2]["name"], "Theirs");
  EXPECT_EQ(after[3]["notes"], "from there");
}

TEST_F(Cli, ADraftIsANewValidProjectThatUsesOnlyItsKit) {
  const std::string out = file("draft.cinnabar");
  const Json draft =
      run("draft " + out +
          " --product can --height 0.115 --width 66mm --kit 'One light' --length 6 --rate 25 --tempo 120"
          " --mood gentle --deliverable 16:9,1:1 --letters 6mm --json")
          .json();
  EXPECT_EQ(draft["written"], out);
  EXPECT_TRUE(draft["short"].empty()) << draft["short"];
  EXPECT_GT(draft["minutes"].get<double>(), 20.0);
  ASSERT_GE(draft["shots"].size(), 4u);
  double seconds = 0;
  for (const Json& shot : draft["shots"]) {
    for (const char* key : {"number", "name", "move", "part", "screen_time", "level", "leaning", "out"})
      EXPECT_TRUE(shot.contains(key)) << key;
    seconds += shot["screen_time"].get<double>();
    EXPECT_GT(shot["level"].get<int>(), 10);
  }
  EXPECT_NEAR(seconds, 6.0, 1e-4);
  EXPECT_EQ(draft["shots"].front()["part"], "hero");
  EXPECT_EQ(draft["shots"].back()["part"], "ending");
  EXPECT_EQ(run("validate " + out + " --json").json()["ok"], true);
  const Json info = run("info " + out + " --json").json();
  EXPECT_EQ(info["shots"].size(), draft["shots"].size());
  EXPECT_EQ(run("draft " + out + " --product can").code, 1) << "nothing is written over";
}

TEST_F(Cli, AForecastTellsItsErrorsWhereValuesAreSampled) {
  const Json levels = run("forecast " + demo() + " --shot 4 --json").json()["shots"][0]["levels"];
  int sampled = 0;
  for (const Json& level : levels) {
    ASSERT_TRUE(level.contains("error")) << level["id"];
    sampled += level["error"].is_number() ? 1 : 0;
    EXPECT_TRUE(level["id"] != "frame.size" || level["error"].is_null());
  }
  EXPECT_GE(sampled, 6);
}

TEST_F(Cli, AMeshIsTakenInOnceItsHeightAgrees) {
  const std::string at = copied("mesh.cinnabar"), mesh = file("wedge.obj");
  std::ofstream(mesh) << "v 0 0 0\nv 40 0 0\nv 0 0 40\nv 0 120 0\nf 1 2 3\nf 1 4 2\nf 2 4 3\nf 3 4 1\n";
  const Answer wrong = run("mesh " + at + " " + mesh + " --unit cm --height 12cm");
  EXPECT_EQ(wrong.code, 2);
  EXPECT_NE(wrong.err.find("In millimetres it would agree"), std::string::npos) << wrong.err;
  const Answer right = run("mesh " + at + " " + mesh + " --unit mm --height 12cm --name Wedge --json");
  ASSERT_EQ(right.code, 0) << right.err;
  EXPECT_NEAR(right.json()["height"].get<double>(), 0.12, 1e-6);
  EXPECT_EQ(right.json()["triangles"], 4);
  EXPECT_EQ(run("validate " + at).code, 0);
  EXPECT_EQ(run("mesh " + at + " /no/such.obj --unit mm").code, 3);
  EXPECT_EQ(run("mesh " + at + " " + mesh + " --unit furlong").code, 2);
  EXPECT_EQ(run("mesh " + at + " " + mesh + " --unit mm --scaled").code, 2);
  EXPECT_EQ(run("mesh " + at + " " + mesh + " --unit mm --up x").code, 2);
  EXPECT_EQ(run("mesh " + at + " " + mesh + " --unit mm --height tall").code, 2);
}

struct Call {
  const char* words;  // DEMO stands for the demo's path
  int code;
};
class ExitCode : public Cli, public testing::WithParamInterface<Call> {};
TEST_P(ExitCode, IsAsDocumented) {
  std::string words = GetParam().words;
  for (std::size_t at; (at = words.find("DEMO")) != std::string::npos;) words.replace(at, 4, demo());
  const Answer answer = run(words);
  EXPECT_EQ(answer.code, GetParam().code) << answer.err;
  if (GetParam().code != 0) {
    EXPECT_FALSE(answer.err.empty());
    EXPECT_TRUE(answer.out.empty()) << answer.out;
  }
}
INSTANTIATE_TEST_SUITE_P(
    Calls, ExitCode,
    testing::Values(
        Call{"calc ev f_number=2.8 time=0.02 iso=400", 0}, Call{"calc --list", 0}, Call{"calc --list --json", 0},
        Call{"calc nonsense", 2}, Call{"calc ev f_number=0 time=1 iso=100", 2}, Call{"calc", 2},
        Call{"forecast DEMO --shot 9", 2}, Call{"forecast DEMO --shot 0", 2}, Call{"forecast DEMO --shot 1.5", 2},
        Call{"forecast DEMO --level none.such", 2}, Call{"lever DEMO --shot 1 --level camera.iso --take 1", 2},
        Call{"lever DEMO --shot 6 --level motion.load --take 99", 2}, Call{"info /no/such.cinnabar", 3},
        Call{"info /dev/null", 3}, Call{"export DEMO --to pdf /tmp/x", 2},
        Call{"export DEMO --to json /no/such/folder/x", 1},
        Call{"meter DEMO --shot 1 --point 0,0 --normal 0,0,1", 2},
        Call{"meter DEMO --shot 1 --point 0,0,0 --normal 0,0,0", 2},
        Call{"meter DEMO --shot 1 --point 0,0,0 --normal 0,1,0 --solo nobody", 2},
        Call{"meter DEMO --shot 1 --point 0,0,nan --normal 0,1,0", 2}, Call{"render DEMO --shot 1 --out x.gif", 2},
        Call{"render DEMO --shot 1 --out x.png --size 0x5", 2},
        Call{"render DEMO --shot 1 --out x.png --passes 0", 2},
        Call{"render DEMO --shot 1 --out x.png --at 99", 2}, Call{"frobnicate", 2}, Call{"", 2},
        Call{"draft x.cinnabar --product teapot", 2}, Call{"draft x.cinnabar --product jar --kit studio", 2},
        Call{"draft x.cinnabar --product jar --height 40", 2},
        Call{"draft x.cinnabar --product jar --width abc", 2},
        Call{"draft x.cinnabar --product jar --mood sad", 2},
        Call{"draft x.cinnabar --product jar --tempo nan", 2},
        Call{"draft x.cinnabar --product jar --deliverable 3:2", 2},
        Call{"draft x.cinnabar --product jar --seed 0.5", 2}, Call{"draft DEMO --product jar", 1},
        Call{"takes DEMO --shot 11", 2}, Call{"undo /no/such.cinnabar", 3},
        Call{"demo /no/such/folder/x.cinnabar", 1}, Call{"demo DEMO", 1}, Call{"versions DEMO", 0}));

}  // namespace
}  // namespace cinnabar::cli_tests
