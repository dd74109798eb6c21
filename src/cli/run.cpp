#include "cinnabar/cli/run.h"

#include <CLI/CLI.hpp>
#include <functional>
#include <iostream>

#include "cinnabar/cli/commands.h"

namespace cinnabar {

namespace {

/// The commands with their options, and what was typed.
class CommandLine {
 public:
  CommandLine() {
    app.require_subcommand(1);
    files();
    judging();
    editing();
    light();
    tables();
    plans();
    calculations();
  }

  CLI::App app{"Cinnabar on the command line: forecasts, meters, pictures and logs of a product clip."};
  std::function<int()> run;

 private:
  CLI::App* command(const char* name, const char* what, std::function<int()> action) {
    CLI::App* sub = app.add_subcommand(name, what);
    sub->add_flag("--json", answer.json, "Answer in JSON");
    sub->callback([this, action = std::move(action)] { run = action; });
    return sub;
  }
  static void with_file(CLI::App* sub, std::string& to) {
    sub->add_option("FILE", to, "Project file")->required();
  }

  /// Projects as files.
  void files() {
    CLI::App* sub = nullptr;
    sub = command("demo", "Write the demo project", [this] { return demo_command(answer, file); });
    sub->add_option("OUT", file, "New file")->required();
    with_file(command("info", "What a project holds, and how its levels stand",
                      [this] { return info_command(answer, file); }),
              file);
    with_file(command("validate", "Every fault of a project or its JSON",
                      [this] { return validate_command(answer, file); }),
              file);
    command("schema", "The JSON Schema of the project document", [this] { return schema_command(answer); });
  }

  /// Levels and what mends them.
  void judging() {
    CLI::App* sub = nullptr;
    sub = command("forecast", "Levels and levers", [this] { return forecast_command(answer, forecast); });
    with_file(sub, forecast.file);
    sub->add_option("--shot", forecast.shot, "Number of the shot, from 1");
    sub->add_option("--level", forecast.level, "One level only");
    sub = command("lever", "Apply one lever", [this] { return lever_command(answer, forecast); });
    with_file(sub, forecast.file);
    sub->add_option("--shot", forecast.shot, "Number of the shot, from 1; left out for the spot's levels");
    sub->add_option("--level", forecast.level, "The level")->required();
    sub->add_option("--take", forecast.take, "Which lever, from 1")->required();
  }

  /// Values, and the way back.
  void editing() {
    CLI::App* sub = nullptr;
    sub = command("set", "Set one value by JSON pointer",
                  [this] { return set_command(answer, file, second, third); });
    with_file(sub, file);
    sub->add_option("POINTER", second, "Such as /shots/0/camera/iso")->required();
    sub->add_option("VALUE", third, "JSON; text that does not parse is taken as text")->required();
    sub = command("touches", "What setting a value would do to the shots on a set-up; nothing is kept",
                  [this] { return touches_command(answer, file, second, third); });
    with_file(sub, file);
    sub->add_option("POINTER", second, "Such as /setups/0/lights/0/dimmer")->required();
    sub->add_option("VALUE", third, "JSON; text that does not parse is taken as text")->required();
    sub = command("vary", "Put a shot on a variation of its set-up",
                  [this] { return vary_command(answer, file, shot, second); });
    with_file(sub, file);
    sub->add_option("--shot", shot, "Number of the shot, from 1")->required();
    sub->add_option("--name", second, "What to call the variation");
    with_file(command("undo", "Take back the last edit", [this] { return undo_command(answer, file, false); }),
              file);
    with_file(command("redo", "Do the last edit again", [this] { return undo_command(answer, file, true); }),
              file);
    with_file(command("versions", "The kept versions", [this] { return versions_command(answer, file); }), file);
    sub = command("keep", "Keep a version of the project as it is",
                  [this] { return keep_command(answer, file, second); });
    with_file(sub, file);
    sub->add_option("NAME", second, "What to call it")->required();
    sub = command("compare", "What differs from a kept version",
                  [this] { return compare_command(answer, file, second); });
    with_file(sub, file);
    sub->add_option("K", second, "Number of the version, from 1")->required();
    sub = command("back", "Go back to a kept version", [this] { return back_command(answer, file, second); });
    with_file(sub, file);
    sub->add_option("K", second, "Number of the version, from 1")->required();
  }

  /// Readings and pictures.
  void light() {
    CLI::App* sub = nullptr;
    sub = command("meter", "Illuminance at a point, by light", [this] { return meter_command(answer, meter); });
    with_file(sub, meter.file);
    sub->add_option("--shot", meter.shot, "Number of the shot, from 1")->required();
    sub->add_option("--point", meter.point, "X,Y,Z in metres")->required();
    sub->add_option("--normal", meter.normal, "X,Y,Z, where the patch faces")->required();
    sub->add_option("--at", meter.at, "Set seconds");
    sub->add_option("--solo", meter.solo, "One light only");
    sub = command("pins", "What is read at the pins of a shot's set-up",
                  [this] { return pins_command(answer, pins); });
    with_file(sub, pins.file);
    sub->add_option("--shot", pins.shot, "Number of the shot, from 1")->required();
    sub->add_option("--at", pins.at, "Set seconds");
    sub = command("calibrate", "A light as a hand meter read it at the pins",
                  [this] { return calibrate_command(answer, pins); });
    with_file(sub, pins.file);
    sub->add_option("--shot", pins.shot, "Number of the shot, from 1")->required();
    sub->add_option("--light", pins.light, "Id of the light")->required();
    sub->add_option("--at", pins.at, "Set seconds");
    sub->add_flag("--take", pins.take, "Set it so, one edit");
    sub = command("render", "The predicted picture", [this] { return render_command(answer, render); });
    with_file(sub, render.file);
    sub->add_option("--shot", render.shot, "Number of the shot, from 1")->required();
    sub->add_option("--out", render.out, "F.png or F.exr")->required();
    sub->add_option("--at", render.at, "Set seconds");
    sub->add_option("--size", render.size, "WIDTHxHEIGHT");
    sub->add_option("--passes", render.passes, "Samples per pixel");
    sub->add_option("--layer", render.layer, "One light only");
    sub = command("animatic", "The spot as a film, in sound and pictures",
                  [this] { return animatic_command(answer, animatic); });
    with_file(sub, animatic.file);
    sub->add_option("OUT", animatic.out, "Film to write: .mp4 or .webm")->required();
    sub->add_option("--size", animatic.size, "WIDTHxHEIGHT, even; else 640x360");
    sub->add_option("--rate", animatic.rate, "Pictures a second; else the timeline's");
    sub->add_option("--shot", animatic.shot, "One shot alone, from 1");
    sub->add_option("--passes", animatic.passes, "Samples per pixel and picture; else 1");
  }

  /// What goes out and comes in.
  void tables() {
    CLI::App* sub = nullptr;
    sub = command("takes", "The log of takes", [this] { return takes_command(answer, file, shot); });
    with_file(sub, file);
    sub->add_option("--shot", shot, "Number of the shot, from 1");
    sub = command("export", "Write a project in an open format",
                  [this] { return export_command(answer, exported); });
    with_file(sub, exported.file);
    sub->add_option("--to", exported.format,
                    "json, shots-json, csv (the shot list), takes-csv, gcode (a shot's motion program), cues (its "
                    "moments as "
                    "sound, WAV) or settings")
        ->required();
    sub->add_option("--shot", exported.shot, "Number of the shot whose program or cues are written, from 1");
    sub->add_option("OUT", exported.out, "File to write")->required();
    sub = command("import", "Read a project from its JSON, or shots or takes from a table or a list",
                  [this] { return import_command(answer, file, second, prefer); });
    with_file(sub, file);
    sub->add_option("IN", second,
                    "JSON (a project, or shots), a table of shots or takes (.csv), or a list of shots (.txt)")
        ->required();
    sub->add_option("--take", prefer, "Where the project and the file both changed a value: mine or theirs");
    sub = command("mesh", "Take in a product from a mesh (OBJ, glTF, STL)",
                  [this] { return mesh_command(answer, mesh); });
    with_file(sub, mesh.file);
    sub->add_option("MESH", mesh.mesh, "The mesh: .obj, .gltf, .glb or .stl")->required();
    sub->add_option("--unit", mesh.unit, "What it is drawn in: mm, cm, m, in or ft")->required();
    sub->add_option("--height", mesh.height, "Its height measured by hand; refused where it does not agree");
    sub->add_flag("--scaled", mesh.scaled, "Make it that high, whatever its unit");
    sub->add_option("--up", mesh.up, "y or z; else the custom of the format");
    sub->add_option("--name", mesh.name, "Name of the product; else the file's");
  }

  /// What is worked out for a shot or a spot.
  void plans() {
    CLI::App* sub = nullptr;
    sub = command("draft", "A new project with a drafted spot", [this] { return draft_command(answer, draft); });
    sub->add_option("OUT", draft.out, "New file")->required();
    sub->add_option("--product", draft.product, "Kind of product, such as bottle, jar, can or carton")->required();
    sub->add_option("--height", draft.height, "Its height: metres, or with a unit");
    sub->add_option("--width", draft.width, "Its width: metres, or with a unit");
    sub->add_option("--letters", draft.letters, "Height of the letters of the name that must be read");
    sub->add_option("--kit", draft.kit, "phone-window, one-light, three-lights or small-studio");
    sub->add_option("--length", draft.length, "Seconds of the spot; else 20");
    sub->add_option("--rate", draft.rate, "Frames a second of the timeline, such as 25 or 24000/1001; else 24");
    sub->add_option("--tempo", draft.tempo, "Beats a minute");
    sub->add_option("--mood", draft.mood, "gentle, warm, dramatic or crisp");
    sub->add_option("--deliverable", draft.deliverable, "Shapes of frame: 16:9, 9:16, 1:1, 4:5, commas between");
    sub->add_option("--seed", draft.seed, "Another whole number gives another draft");
    sub->add_option("--name", draft.name, "Name of the project");
    sub = command("stops", "Settings that expose a shot, solved together",
                  [this] { return stops_command(answer, stops); });
    with_file(sub, stops.file);
    sub->add_option("--shot", stops.shot, "Number of the shot, from 1")->required();
    sub->add_option("--pin", stops.pin, "What is held: iso, aperture, shutter, rate, nd, lights, commas between");
    sub->add_option("--take", stops.take, "Which answer to set, from 1");
    sub = command("method", "Starting arrangements for what the product is made of",
                  [this] { return method_command(answer, method); });
    with_file(sub, method.file);
    sub->add_option("--shot", method.shot, "Number of the shot, from 1")->required();
    sub->add_flag("--list", all_methods, "Those that suit the shot, which is what is told without it too");
    sub->add_option("--name", method.name, "One method only");
    sub->add_option("--take", method.take, "Which to set up, from 1");
    sub = command("wish", "Where things have to stand for what is wanted",
                  [this] { return wish_command(answer, wish); });
    with_file(sub, wish.file);
    sub->add_option("--shot", wish.shot, "Number of the shot, from 1")->required();
    sub->add_option("--want", wish.want, "KIND key=value ...; several are met together")
        ->required()
        ->expected(1, -1)
        ->inject_separator(wish_separator);
    sub->add_option("--take", wish.take, "Which answer to set up, from 1");
    sub = command("effects", "What comes of a shot's practical effects",
                  [this] { return effects_command(answer, effects); });
    with_file(sub, effects.file);
    sub->add_option("--shot", effects.shot, "Number of the shot, from 1")->required();
    sub->add_option("--at", effects.at, "Also what is in the air at this set second");
    sub = command("solve", "Moves that do what is asked, each staged",
                  [this] { return solve_command(answer, move); });
    with_file(sub, move.file);
    sub->add_option("--shot", move.shot, "Number of the shot, from 1")->required();
    sub->add_option(
           "KIND", move.kind,
           "facing, peak, centred, orbit, boom, push, rack, match, loop, ramp, spin or stop-motion; of an effect "
           "release, height or flow")
        ->required();
    sub->add_option("KEYS", move.words, "key=value ...");
    sub->add_option("--take", move.take, "Which answer to set up, from 1");
  }

  /// The arithmetic by itself.
  void calculations() {
    CLI::App* sub = nullptr;
    sub = command("calc", "One calculation by name", [this] { return calc_command(answer, file, words, list); });
    sub->add_option("NAME", file, "Name of the calculation");
    sub->add_option("KEYS", words, "key=value ...");
    sub->add_flag("--list", list, "All calculations with keys, units, ranges and sources");
  }

  Answer answer;
  std::string file, second, third, shot, prefer;
  std::vector<std::string> words;
  bool list = false, all_methods = false;
  ForecastArguments forecast;
  MeterArguments meter;
  PinsArguments pins;
  RenderArguments render;
  AnimaticArguments animatic;
  ExportArguments exported;
  MeshArguments mesh;
  DraftArguments draft;
  StopsArguments stops;
  MethodArguments method;
  WishArguments wish;
  EffectsArguments effects;
  SolveArguments move;
};

}  // namespace

int run_cli(int argc, char** argv) {
  CommandLine line;
  try {
    line.app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    const int code = line.app.exit(e, std::cout, std::cerr);
    return code == 0 ? 0 : 2;
  }
  try {
    return line.run();
  } catch (const std::exception& e) {
    std::cerr << "cinnabar-cli: could not go on (" << e.what() << "); what was kept by then is in the file\n";
    return 1;
  }
}

}  // namespace cinnabar
