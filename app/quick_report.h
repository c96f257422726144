// The quick report of an axis on paper: PDF and print.
#pragma once

#include "app/document.h"
#include "core/report/axis_report.h"

#include <QPagedPaintDevice>
#include <QString>

namespace fulmox::app {

/// The sections of the selected axis, which must be there and calculated.
std::vector<ReportSection> report_of(Document& document);

/// The same as HTML, pictures by their name.
QString report_html(Document& document);

/// Draws the report, with the name of the axis and the page on every sheet; the pages drawn.
int paint_report(Document& document, QPagedPaintDevice& paper);

/// Writes it as a PDF; empty on success, else what went wrong.
QString write_report(Document& document, const QString& file);

/// The same of one axis, counted from 1, of a project that has just been read.
QString write_report_of(
    Result<ProjectRead, QString> project, const QString& project_file, const QString& axis, const QString& file);

} // namespace fulmox::app
