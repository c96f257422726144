// Where motors are kept: the catalogue that ships with the program, and those of one's own.
#pragma once

#include "core/model/machine.h"

#include <QString>
#include <string>
#include <vector>

namespace fulmox::app {

/// The catalogue that ships with the program.
const std::vector<Motor>& shipped_motors();
/// Its name.
QString shipped_catalogue_name();
/// Whether the motor of the axis is one of the catalogue and the field at this path below it ("/rotor_inertia") is as
/// the catalogue has it.
bool as_in_catalogue(const Motor& motor, const std::string& field, const std::string& text);

/// A motor that stands neither in the catalogue, nor in the library, nor among the project's own is added to these.
void keep_motor(Machine& machine, const Motor& motor);

} // namespace fulmox::app
