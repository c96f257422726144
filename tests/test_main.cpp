// The main of the tests, compiled once.
#define CATCH_CONFIG_RUNNER
#include "tests/catch.h"

int main(int argc, char** argv) { return Catch::Session().run(argc, argv); }
