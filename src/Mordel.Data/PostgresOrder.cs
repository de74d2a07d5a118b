using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore.Query;
using Microsoft.EntityFrameworkCore.Query.SqlExpressions;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql.EntityFrameworkCore.PostgreSQL.Infrastructure.Internal;
using Npgsql.EntityFrameworkCore.PostgreSQL.Query.Internal;

namespace Mordel.Data;

#pragma warning disable EF1001 // The driver lets nobody else write its questions.

/// <summary>
/// Puts nothing before something wherever a list is ordered, as a file does: by itself a server puts it last. What is
/// never nothing is left as it is, so that the indexes of keys serve.
/// </summary>
public sealed class PostgresOrder(
    QuerySqlGeneratorDependencies dependencies,
    IRelationalTypeMappingSource types,
    INpgsqlSingletonOptions server
) : IQuerySqlGeneratorFactory
{
    /// <inheritdoc/>
    public QuerySqlGenerator Create() => new Generator(dependencies, types, server.PostgresVersion);

    private sealed class Generator(
        QuerySqlGeneratorDependencies dependencies,
        IRelationalTypeMappingSource types,
        Version version
    ) : NpgsqlQuerySqlGenerator(dependencies, types, reverseNullOrderingEnabled: false, version)
    {
        protected override Expression VisitOrdering(OrderingExpression orderingExpression)
        {
            ArgumentNullException.ThrowIfNull(orderingExpression);
            var written = base.VisitOrdering(orderingExpression);
            if (orderingExpression.Expression is not ColumnExpression { IsNullable: false })
                Sql.Append(orderingExpression.IsAscending ? " NULLS FIRST" : " NULLS LAST");
            return written;
        }
    }
}
