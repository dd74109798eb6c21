#include "cinnabar/cli/run.h"

int main(int argc, char** argv) { return cinnabar::run_cli(argc, argv); }
