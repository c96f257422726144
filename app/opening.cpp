#include "app/opening.h"

#include "app/background.h"
#include "app/regular_file.h"

#include <QCoreApplication>
#include <QEventLoop>
#include <QFileInfo>
#include <QProgressDialog>
#include <functional>

namespace fulmox::app {

namespace {

using Load = std::function<Result<ProjectRead, QString>()>;

std::optional<Result<ProjectRead, QString>> beside(QWidget* window, const QString& file, Load load) {
    if (const auto size = size_of_regular(file); !size || *size <= read_at_once) return load();
    using Read = std::shared_ptr<Result<ProjectRead, QString>>;
    QEventLoop loop;
    Read read;
    bool ended = false;
    auto work = std::make_unique<Background<Read>>();
    work->run(
        qApp, [load](const StopToken&) { return std::make_shared<Result<ProjectRead, QString>>(load()); },
        [&](Read made) {
            read = std::move(made);
            ended = true;
            loop.quit();
        });
    if (!ended) {
        const auto tr = [](const char* text) { return QCoreApplication::translate("Opening", text); };
        QProgressDialog dialog(tr("%1 is being read…").arg(QFileInfo(file).fileName()), tr("Stop"), 0, 0, window);
        dialog.setObjectName(QStringLiteral("opening"));
        dialog.setWindowTitle(tr("Open project"));
        dialog.setWindowModality(Qt::ApplicationModal);
        dialog.setMinimumDuration(0);
        QObject::connect(&dialog, &QProgressDialog::canceled, &loop, [&] {
            work->drop();
            loop.quit();
        });
        dialog.show();
        loop.exec();
    }
    if (!ended) {
        let_end(std::move(work));
        return std::nullopt;
    }
    if (!read)
        return Result<ProjectRead, QString>::failure(
            QCoreApplication::translate("Opening", "%1 is not opened: there is not enough memory for it.").arg(file));
    return std::move(*read);
}

} // namespace

std::optional<Result<ProjectRead, QString>> load_beside(QWidget* window, const QString& file) {
    return beside(window, file, [file] { return load_project(file); });
}

std::optional<Result<ProjectRead, QString>> load_beside(QWidget* window, const Leftover& left) {
    return beside(window, left.recovery_file, [left] { return Recovery::load(left); });
}

} // namespace fulmox::app
