// The command line: cinnabar-cli.
#pragma once
namespace cinnabar {
/// Runs one call; the answer is the exit code (see docs/command-line.md).
int run_cli(int argc, char** argv);
}  // namespace cinnabar
